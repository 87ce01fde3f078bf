export interface Postgres {
  url: string;
  kill(): void;
  start(): boolean;
  end(): void;
}
export function postgresBins(): string[];
export function startPostgres(port: number): Postgres | null;
