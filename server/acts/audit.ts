import { and, desc, eq, ilike, lt, or, sql, type SQL } from 'drizzle-orm';
import type { Reader } from '../db/open';
import { audit, person } from '../db/schema';
import { containing } from '../base/containing';

export interface AuditLine {
  id: number;
  at: number;
  by: string;
  action: string;
  caseId: number | null;
  detail: string;
}

export interface AuditQuery {
  text: string;
  caseId?: number;
  /** Lines older than this one. */
  before?: number;
}

/** Lines on a page of the audit log. */
export const auditPage = 100;
/** Lines in an export. */
export const auditExport = 50_000;

/** Detail without the command's id, which tells a reader nothing, and with people by their names. */
const told = (detail: Record<string, unknown>, names: ReadonlyMap<string, string>): string =>
  Object.entries(detail)
    .filter(([name]) => name !== 'command')
    .map(([name, value]) => `${name}: ${typeof value === 'string' ? (name === 'person' && names.get(value)) || value : JSON.stringify(value)}`)
    .join(', ');

/** The latest first. */
export async function readAudit(db: Reader, query: AuditQuery, limit = auditPage): Promise<AuditLine[]> {
  const conditions: (SQL | undefined)[] = [
    query.text === ''
      ? undefined
      : or(
          ilike(audit.action, containing(query.text)),
          ilike(person.name, containing(query.text)),
          ilike(sql`${audit.detail}::text`, containing(query.text)),
        ),
    query.caseId === undefined ? undefined : eq(audit.caseId, query.caseId),
    query.before === undefined ? undefined : lt(audit.id, query.before),
  ];
  const rows = await db
    .select({ id: audit.id, at: audit.at, by: person.name, action: audit.action, caseId: audit.caseId, detail: audit.detail })
    .from(audit)
    .leftJoin(person, eq(audit.by, person.id))
    .where(and(...conditions))
    .orderBy(desc(audit.id))
    .limit(limit);
  const names = new Map((await db.select({ id: person.id, name: person.name }).from(person)).map((p) => [p.id, p.name]));
  return rows.map((r) => ({ ...r, by: r.by ?? 'nobody signed in', detail: told(r.detail, names) }));
}
