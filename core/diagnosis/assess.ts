import { combineKeys, combineStatements, type LinkState } from '../chain';
import {
  anotherKey,
  type Fact,
  type FactLookup,
  type Family,
  holds,
  type ParamValues,
  type Statement,
  type TestDefinition,
  type VerdictStep,
  verdictText,
} from '../library';
import { asksImmobilizer } from './doableNow';
import { sentences } from './sentences';

/** One line of the ledger, as the rule needs it; in order of time. */
export interface EvidenceEntry {
  id: string;
  test: string;
  /** Null withdraws the entry that `replaces` names. */
  outcome: string | null;
  /** Tag of the key it was seen with. */
  key?: string;
  /** Id of an earlier entry that this one corrects. */
  replaces?: string;
}

/** What is known of a case besides its evidence. */
export interface CaseFacts {
  /** Ids of what changed lately, e.g. `ecm`. */
  changed: readonly string[];
  /** Ids of what the customer says the engine does, e.g. `startsAndDies`. */
  symptoms: readonly string[];
  /** Tags of the keys that are here. */
  keys: readonly string[];
  /** Latest run of each procedure: `running`, `finished` or `stopped`. */
  runs: Readonly<Record<string, string>>;
  /** Every key has been verified since the last run. */
  verified: boolean;
}

export interface LinkStatus {
  id: string;
  title: string;
  how: string;
  state: LinkState;
  /** For links judged key by key. */
  keys: { tag: string; state: LinkState }[];
  /** Ids of the evidence that speaks on this link, with what it says. */
  because: { evidence: string; state: LinkState; weight: 'direct' | 'hint' }[];
}

export type Proposal = { why: string } & (
  | { kind: 'test'; test: TestDefinition; key?: string }
  | { kind: 'procedure'; procedure: string }
  | { kind: 'verify' }
  | { kind: 'handOver' }
  | { kind: 'nothing' }
);

export interface Assessment {
  links: LinkStatus[];
  /** First the one to do, then what could be done instead. */
  next: Proposal[];
  verdict?: { id: string; kind: string; say: string };
}

/** Entries that still count: corrected and withdrawn ones are gone, corrections stand in place of what they correct. */
export function standing(evidence: readonly EvidenceEntry[]): EvidenceEntry[] {
  const replaced = new Set(evidence.flatMap((e) => (e.replaces ? [e.replaces] : [])));
  return evidence.filter((e) => !replaced.has(e.id) && e.outcome !== null);
}

/**
 * The state of every link and what to do next. This is the simple, honest rule of the first version: the content says what each outcome
 * means for each link and in which order a sensible person goes on; nothing is weighed by probability yet. Stands behind this face so that
 * the engine can take its place.
 */
export function assess(family: Family, params: ParamValues, facts: CaseFacts, evidence: readonly EvidenceEntry[]): Assessment {
  const entries = standing(evidence);
  // A repeated test with the same key is no new evidence: only its latest outcome counts.
  const latest = entries.filter((e, i) => !entries.slice(i + 1).some((later) => later.test === e.test && later.key === e.key));
  const lookup = factLookup(facts, latest);

  interface Said extends Pick<Statement, 'link' | 'state' | 'weight'> {
    evidence: string;
    key?: string;
  }
  const said: Said[] = latest.flatMap((entry) => {
    const outcome = family.tests.find((t) => t.id === entry.test)?.outcomes[entry.outcome!];
    if (!outcome) return [];
    const statements = outcome.provesAll
      ? family.chain.map((l) => ({ link: l.id, state: 'holds' as const, weight: 'direct' as const }))
      : outcome.says.filter((s) => !s.when || holds(s.when, lookup, params));
    return statements.map((s) => ({ link: s.link, state: s.state, weight: s.weight, evidence: entry.id, ...(entry.key ? { key: entry.key } : {}) }));
  });

  const links = family.chain
    .filter((l) => !l.when || holds(l.when, lookup, params))
    .map((l): LinkStatus => {
      const mine = said.filter((s) => s.link === l.id);
      const keys = l.perKey ? facts.keys.map((tag) => ({ tag, state: combineStatements(mine.filter((s) => s.key === tag)) })) : [];
      const unkeyed = mine.filter((s) => !l.perKey || s.key === undefined || !facts.keys.includes(s.key));
      const vehicle = combineStatements(unkeyed);
      const state = combineKeys([...keys.map((k) => k.state), vehicle]);
      return {
        id: l.id,
        title: l.title,
        how: l.how,
        state,
        keys,
        because: mine.map(({ evidence: id, state: s, weight }) => ({ evidence: id, state: s, weight })),
      };
    });

  const withLinks: FactLookup = (subject, name) => (subject === 'link' ? links.find((l) => l.id === name)?.state : lookup(subject, name));
  const tried = (step: VerdictStep) =>
    step.until?.some((id) => (id === anotherKey ? otherKeyTried(family, latest) : latest.some((e) => e.test === id)));
  // What a rule advises is said as long as something of it is left to do; then the next rule that holds speaks.
  const [verdict] = family.verdicts.flatMap((v) => {
    if (!holds(v.when, withLinks, params)) return [];
    const left = v.steps?.filter((s) => !tried(s));
    return left?.length === 0 ? [] : [{ id: v.id, kind: v.kind, say: verdictText(v.say, left) }];
  });
  return {
    links,
    next: propose(family, params, facts, latest, withLinks),
    ...(verdict ? { verdict } : {}),
  };
}

/** A second key was tried at the light, or at what stands for it. */
function otherKeyTried(family: Family, latest: readonly EvidenceEntry[]): boolean {
  const light = family.tests.find(asksImmobilizer);
  const atLight = latest.filter((e) => {
    const test = family.tests.find((t) => t.id === e.test);
    return test !== undefined && light !== undefined && (test === light || test.same === light.id);
  });
  const second = (e: EvidenceEntry) => family.tests.find((t) => t.id === e.test)?.needs?.keys === 'second';
  return latest.some(second) || new Set(atLight.map((e) => e.key)).size > 1;
}

function factLookup(facts: CaseFacts, latest: readonly EvidenceEntry[]): FactLookup {
  return (subject, name): Fact | undefined => {
    switch (subject) {
      case 'evidence':
        return latest.findLast((e) => e.test === name)?.outcome ?? undefined;
      case 'changed':
        return facts.changed.includes(name);
      case 'symptom':
        return facts.symptoms.includes(name);
      case 'run':
        return facts.runs[name];
      default:
        return undefined;
    }
  };
}

function propose(family: Family, params: ParamValues, facts: CaseFacts, latest: readonly EvidenceEntry[], lookup: FactLookup): Proposal[] {
  const proposals = family.next.flatMap((rule): Proposal[] => {
    if (rule.when && !holds(rule.when, lookup, params)) return [];
    if ('procedure' in rule) return [{ kind: 'procedure', procedure: rule.procedure, why: rule.why }];
    if ('verify' in rule)
      return [
        facts.verified
          ? {
              kind: 'handOver',
              why: sentences.readyToHandOver,
            }
          : { kind: 'verify', why: rule.why },
      ];
    const test = family.tests.find((t) => t.id === rule.test)!;
    const done = latest.filter((e) => e.test === test.id);
    if (!test.perKey) return done.length > 0 && !rule.again ? [] : [{ kind: 'test', test, why: rule.why }];
    const open = facts.keys.filter((tag) => !done.some((e) => e.key === tag));
    // A test that is made key by key begins with the first key; further keys follow where the rule says "again".
    if (open.length === 0 || (done.length > 0 && !rule.again)) return [];
    return [{ kind: 'test', test, key: open[0]!, why: rule.why }];
  });
  if (proposals.length === 0)
    return [
      {
        kind: 'nothing',
        why: sentences.nothingLeftToTest,
      },
    ];
  return proposals;
}
