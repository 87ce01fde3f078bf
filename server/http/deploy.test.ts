import { existsSync, readFileSync } from 'node:fs';
import { parse } from 'yaml';

/** No container engine is needed for this: what the files promise is read in them. */

test('Dockerfile: what it copies is there, it runs as nobody special, its data is a volume, and its health is that of the database', () => {
  const lines = readFileSync('Dockerfile', 'utf8')
    .split('\n')
    .filter((l) => l !== '' && !l.startsWith('#'));
  const stage = lines.slice(lines.map((l) => l.startsWith('FROM')).lastIndexOf(true));
  const copied = stage.flatMap((l) => /^COPY --from=build \/app\/(\S+)/.exec(l)?.[1] ?? []);
  expect(copied).toEqual(expect.arrayContaining(['bin', 'build', 'content', 'server/db/migrations', 'node_modules', 'package.json']));
  // What the build makes is not in the repository.
  for (const path of copied.filter((p) => p !== 'build' && p !== 'node_modules')) expect([path, existsSync(path)]).toEqual([path, true]);
  const user = stage.findIndex((l) => l === 'USER node');
  expect(user).toBeGreaterThan(0);
  expect(stage.slice(user).some((l) => /^(USER root|RUN|COPY)/.test(l))).toBe(false);
  expect(stage).toContain('VOLUME /data');
  expect(stage.find((l) => l.startsWith('HEALTHCHECK'))).toContain('/readyz');
  expect(stage.at(-1)).toBe('CMD ["node", "bin/serve.mjs"]');
});

test('compose: a database that is healthy before the app begins, both with a volume, no password in the file', () => {
  const text = readFileSync('compose.yaml', 'utf8');
  const { services, volumes } = parse(text) as {
    services: Record<string, { volumes: string[]; healthcheck?: object; user?: string; depends_on?: object; environment: Record<string, string> }>;
    volumes: Record<string, null>;
  };
  expect(Object.keys(services)).toEqual(['database', 'app']);
  for (const { volumes: own } of Object.values(services)) for (const v of own) expect(volumes).toHaveProperty(v.split(':')[0]!);
  expect(services.database!.healthcheck).toBeDefined();
  expect(services.app).toMatchObject({ user: 'node', depends_on: { database: { condition: 'service_healthy' } } });
  for (const { environment } of Object.values(services))
    for (const value of Object.values(environment)) if (/PASSWORD/.test(value)) expect(value).toContain('${POSTGRES_PASSWORD:?');
});

test('the unit of systemd: a user of its own, started again whenever it ends, what it may write is its own folder', () => {
  const unit = readFileSync('deploy/bloodstone.service', 'utf8');
  for (const line of ['User=bloodstone', 'Restart=always', 'ProtectSystem=strict', 'StateDirectory=bloodstone', 'NoNewPrivileges=yes', 'UMask=0077'])
    expect(unit.split('\n')).toContain(line);
  expect(unit).toContain('ExecStart=/usr/bin/node bin/serve.mjs');
  expect(unit).toMatch(/BLOODSTONE_DATA=\/var\/lib\/bloodstone\b/);
});
