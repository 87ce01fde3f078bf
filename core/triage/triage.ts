import type { LinkState } from '../chain';
import { type EvidenceEntry, type LinkStatus, standing } from '../diagnosis';
import type { Family, TestDefinition, TriageRole } from '../library';

/**
 * What the immobilizer says of the vehicle as it stands: it refuses; it accepts; nothing of it speaks; or what was seen does not tell.
 */
export type TriageKind = 'refused' | 'accepted' | 'silent' | 'notClear';

export interface TriageStage {
  id: 'signs' | 'immobilizer' | 'live' | 'cheap' | 'changed' | 'engine';
  tests: TestDefinition[];
  /** Ids of those whose outcome stands in the ledger. */
  done: string[];
  /** Nothing more is asked here: one look is enough for an immobilizer that speaks, every look for signs and cheap looks. */
  answered: boolean;
}

export interface Triage {
  /** In the order in which they are asked; what does not tell more in this case is left out. */
  stages: TriageStage[];
  kind: TriageKind;
  /** Tags that are accepted and tags that are refused, where keys differ. */
  differ: { accepted: string[]; refused: string[] } | null;
  /** Ids of the links to look at next, the most telling first. */
  look: string[];
}

/** What is known besides the links and the ledger. */
export interface TriageFacts {
  changed: readonly string[];
  symptoms: readonly string[];
  /** Somebody has asked what changed, also when nothing had. */
  askedWhatChanged: boolean;
}

const immobilizerLink = 'keyAccepted';
const powerLinks = ['power', 'ignitionFeed'];
/** What you are checking beyond an immobilizer that accepts, in the order of how soon it is looked at. */
const beyond = ['steering', 'interlocks', 'starter', 'fuelSpark'];
/** Links that stand before the immobilizer or behind its permission; what is left belongs to the immobilizer itself, such as an alarm that must be quiet. */
const notTheImmobilizers = [...powerLinks, ...beyond, 'network', 'startEnabled'];
/** Modules whose replacement leaves the engine's release in question, whatever the immobilizer says. */
const swapped = ['ecm', 'immobilizerModule'];

/**
 * The triage of a no-start: which looks are made in which order, and what they say together. It reads the links and the ledger and keeps nothing of
 * its own. The order and the verdicts are those of craft.md §1; which test stands where is the family's (`triage` of a test).
 * @param links of the assessment of the same evidence
 */
export function triage(family: Family, links: readonly LinkStatus[], facts: TriageFacts, evidence: readonly EvidenceEntry[]): Triage {
  const entries = standing(evidence);
  const kind = kindOf(links);
  const immobilizer = links.find((l) => l.id === immobilizerLink);
  const tagged = (state: LinkState) => (immobilizer?.keys ?? []).filter((k) => k.state === state).map((k) => k.tag);
  const [accepted, refused] = [tagged('holds'), tagged('broken')];
  return {
    stages: stagesOf(family, kind, facts, new Set(entries.map((e) => e.test))),
    kind,
    differ: accepted.length > 0 && refused.length > 0 ? { accepted, refused } : null,
    look: lookAt(
      kind,
      links,
      facts,
      entries.some((e) => e.test === 'engine' && e.outcome === 'dies'),
    ),
  };
}

function kindOf(links: readonly LinkStatus[]): TriageKind {
  const place = links.findIndex((l) => l.id === immobilizerLink);
  const immobilizer = links[place];
  if (!immobilizer) return 'notClear';
  const broken = (some: readonly LinkStatus[]) => some.some((l) => l.state === 'broken' && !notTheImmobilizers.includes(l.id));
  if (immobilizer.state === 'holds') return broken(links.slice(place + 1)) ? 'refused' : 'accepted';
  if (immobilizer.state === 'broken' || immobilizer.because.some((b) => b.weight === 'direct' && b.state !== 'holds')) return 'refused';
  const mute = links.some((l) => powerLinks.includes(l.id) && (l.state === 'doubtful' || l.state === 'broken'));
  // An immobilizer that is fed and names what it misses has spoken, even when it says nothing of the key itself.
  if (!mute && broken(links)) return 'refused';
  return mute ? 'silent' : 'notClear';
}

function stagesOf(family: Family, kind: TriageKind, facts: TriageFacts, done: ReadonlySet<string>): TriageStage[] {
  const withRole = (role: TriageRole) => family.tests.filter((t) => t.triage?.includes(role));
  const stage = (id: TriageStage['id'], tests: TestDefinition[], enough: 'one' | 'all'): TriageStage => {
    const made = tests.map((t) => t.id).filter((t) => done.has(t));
    return { id, tests, done: made, answered: enough === 'one' ? made.length > 0 : made.length === tests.length };
  };
  const immobilizer = stage('immobilizer', withRole('immobilizer'), 'one');
  const signs = stage('signs', withRole('sign'), 'all');
  const live = stage('live', withRole('live'), 'one');
  // What needs no tool comes first, and what is done with the key before the rest.
  const cheap = stage(
    'cheap',
    withRole('cheap').sort((a, b) => a.tools.length - b.tools.length || Number(b.perKey) - Number(a.perKey) || a.minutes - b.minutes),
    'all',
  );
  const changed: TriageStage = { id: 'changed', tests: [], done: [], answered: facts.askedWhatChanged };
  const engine = stage('engine', withRole('engine'), 'one');
  const lamp = family.lamps.some((l) => l.segments);
  // Where no lamp speaks, small signs and the cluster's words come first, and live data is asked for when they don't tell.
  const unclear = kind === 'silent' || kind === 'notClear';
  // A lamp that has spoken leaves nothing to ask of the signs; whoever noticed one can still say so, at the end.
  const noticed = lamp && !unclear ? [{ ...signs, answered: true }] : [];
  const first = noticed.length > 0 ? [immobilizer] : lamp ? [immobilizer, signs] : [signs, immobilizer];
  return [
    ...first,
    ...(live.tests.length > 0 && (live.done.length > 0 || (immobilizer.answered && unclear)) ? [live] : []),
    ...(kind === 'refused' || cheap.done.some((t) => !signs.done.includes(t)) ? [cheap] : []),
    changed,
    engine,
    ...noticed,
  ].filter((s) => s.id === 'changed' || s.tests.length > 0);
}

/** What to check next, for each verdict. */
function lookAt(kind: TriageKind, links: readonly LinkStatus[], facts: TriageFacts, dies: boolean): string[] {
  const here = (ids: readonly string[]) => ids.filter((id) => links.some((l) => l.id === id));
  const stateOf = (id: string) => links.find((l) => l.id === id)?.state;
  const open = (ids: readonly string[]) => here(ids).filter((id) => stateOf(id) !== 'holds');
  switch (kind) {
    case 'refused': {
      const own = links.filter((l) => !notTheImmobilizers.includes(l.id));
      return [...own.filter((l) => l.state === 'broken' && l.id !== immobilizerLink), ...own]
        .map((l) => l.id)
        .filter((id, i, all) => stateOf(id) !== 'holds' && all.indexOf(id) === i);
    }
    case 'silent':
      return open(['power', 'ignitionFeed', 'reader', 'key']);
    case 'accepted': {
      const release = dies || facts.symptoms.includes('startsAndDies') || facts.changed.some((c) => swapped.includes(c));
      const doubted = stateOf('startEnabled') === 'broken' || (stateOf('startEnabled') === 'doubtful' && release);
      return [...(release || doubted ? open(['startEnabled', 'network']) : []), ...open(beyond)];
    }
    case 'notClear': {
      const directly = (l: LinkStatus) => l.because.some((b) => b.weight === 'direct' && b.state === 'doubtful');
      const order = (l: LinkStatus) => (l.state === 'broken' ? 0 : l.state === 'unproven' ? 3 : directly(l) ? 1 : 2);
      return links
        .filter((l) => l.state !== 'holds' && !['starter', 'fuelSpark'].includes(l.id))
        .sort((a, b) => order(a) - order(b))
        .map((l) => l.id);
    }
  }
}
