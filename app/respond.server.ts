import { data, type RouterContextProvider } from 'react-router';
import { boundsProblem, formBounds } from '../core/library/bounds';
import type { Problem } from '../core/units';
import type { Act } from '../server/acts/commands';
import { Refused, refused } from '../server/base/expected';
import { fieldsOf } from '../server/base/fieldsOf';
import { refusalOf } from '../server/db/away';
import { parseCommandId } from '../server/base/fields';
import { type Here, here } from '../server/http/requestContext';
import { mayArriveLater } from './offline/later';
import { may, type Page, type PageRights, pages, type Person } from '../server/acts/rights';

/** The one shape in which an action tells what is wrong. */
export interface Problems {
  problems: Problem[];
}

/** Runs an act; expected refusals become an answer for the person, everything else goes on to the error boundary. */
export async function answering<T>(work: () => Promise<T>) {
  try {
    return data<T | Problems>(await work());
  } catch (error) {
    const told = refusalOf(error) ?? error;
    if (told instanceof Refused) return data<T | Problems>({ problems: told.problems }, { status: told.status });
    throw error;
  }
}

/** Who is signed in. @throws Refused 401 */
export function personOf(context: Readonly<RouterContextProvider>): Person {
  const { session } = context.get(here);
  if (!session || session.locked)
    throw refused(
      401,
      'signedOut',
      'You are signed out here. Sign in in a new tab of this browser, then send this again. Nothing you typed is lost.',
    );
  return session.person;
}

/** How old an act may be that arrives later, ms: its id is known for that long (server/acts/commands), and after that nothing would tell it from a new one. */
const oldestMs = 29 * 24 * 60 * 60_000;

/** Who acts now, under the id that the browser gave. @param occurredAt when it was done, of an act that may arrive later; never after now */
export function actOf(context: Readonly<RouterContextProvider>, commandId: unknown, occurredAt?: unknown): Act {
  const now = context.get(here).services.clock.now();
  const act = { id: parseCommandId(commandId), actor: personOf(context), now };
  if (occurredAt === undefined) return act;
  const at = typeof occurredAt === 'string' && occurredAt !== '' ? Number(occurredAt) : occurredAt;
  if (typeof at !== 'number' || !Number.isSafeInteger(at)) throw refused(400, 'badMoment', 'It is not clear when this was done. Enter it again.');
  if (at < now - oldestMs)
    throw refused(409, 'tooOld', 'This was done more than four weeks ago and is not taken any more. Enter it again, with the day in its words.');
  return { ...act, doneAt: Math.min(at, now) };
}

type Acts<P extends Page> = (typeof pages)[P] extends { acts: infer A } ? A : never;
export interface Sent extends Here {
  /** The fields of the form, without its intent and its command's id. */
  form: Record<string, unknown>;
  context: Readonly<RouterContextProvider>;
  /** The act, for those that are recorded under a command's id. */
  act(): Act;
}

/**
 * Answers a form of a page: finds which of the page's acts is meant, checks its right in the table, then does it. The table and the handlers
 * name the same acts, or it does not compile.
 */
export async function acting<P extends Page, H extends Record<keyof Acts<P>, (sent: Sent) => Promise<unknown>>>(
  page: P,
  { request, context }: { request: Request; context: Readonly<RouterContextProvider> },
  handlers: H,
) {
  return answering(async (): Promise<Awaited<ReturnType<H[keyof Acts<P>]>>> => {
    const acts = (pages[page] as PageRights).acts!;
    const names = Object.keys(acts);
    // Nobody makes the server read a long form without being signed in.
    if (!Object.values(acts).includes('anyone')) personOf(context);
    const { intent = names.length === 1 ? names[0] : undefined, commandId, ...fields } = await sentFields(request);
    if (typeof intent !== 'string' || !Object.hasOwn(acts, intent)) {
      throw refused(400, 'unknownIntent', 'This form is out of date. Reload the page and fill it in again.');
    }
    const { occurredAt, ...rest } = fields;
    const isLate = occurredAt !== undefined && mayArriveLater(page, intent);
    const form = isLate ? rest : fields;
    const right = acts[intent]!;
    if (right !== 'anyone') {
      const person = personOf(context);
      if (!may(person, right)) throw refused(403, 'notAllowed', `${person.name} may not do this. Ask the lead or the owner.`);
    }
    await context.get(here).services.database.space.need(form.file instanceof Uint8Array ? form.file.byteLength : 0);
    return (await handlers[intent as keyof Acts<P>]({
      ...context.get(here),
      form,
      context,
      act: () => actOf(context, commandId, isLate ? occurredAt : undefined),
    })) as Awaited<ReturnType<H[keyof Acts<P>]>>;
  });
}

async function sentFields(request: Request): Promise<Record<string, unknown>> {
  const unreadable = () => refused(400, 'unreadable', 'What was sent could not be read. Reload the page and do it again.');
  const type = request.headers.get('content-type') ?? '';
  try {
    if (!type.startsWith('application/json')) {
      const data = await request.formData();
      const file = data.get('file');
      if (!(file instanceof File)) return fieldsOf(data);
      data.delete('file');
      return { ...fieldsOf(data), file: new Uint8Array(await file.arrayBuffer()) };
    }
    const body: unknown = await request.json();
    if (typeof body !== 'object' || body === null || Array.isArray(body)) throw unreadable();
    const problem = boundsProblem(body, formBounds);
    if (problem) throw new Refused(400, [problem]);
    return body as Record<string, unknown>;
  } catch (error) {
    throw error instanceof Refused ? error : unreadable();
  }
}

/** A helpful 404 for a record that is not there. */
export function notThere(what: string, say: string): never {
  throw data(say, { status: 404, statusText: what });
}

/** A file to save. An expected refusal becomes a page in plain words. */
export async function download(make: () => Promise<{ name: string; type: string; body: string | Uint8Array }>): Promise<Response> {
  try {
    const { name, type, body } = await make();
    return new Response(body as BodyInit, {
      headers: { 'Content-Type': type, 'Content-Disposition': `attachment; filename="${name}"`, 'Cache-Control': 'no-store' },
    });
  } catch (error) {
    if (error instanceof Refused) throw data(error.message, { status: error.status, statusText: 'Not possible' });
    throw error;
  }
}
