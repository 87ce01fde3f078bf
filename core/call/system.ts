import { assess } from '../diagnosis';
import { readLamp, type Recording, seenWords } from '../lamp';
import { type Family, type LaidLamp, type LampMoment, type Profile, resolveLamps, resolveParams, valuesOf } from '../library';
import { formatChance } from '../units';
import { triage, type TriageKind } from '../triage';
import { adviseCall, type CallAdvice, type CallFacts } from './advise';
import type { CallSheet } from './callSheet';
import { sentences } from './sentences';

/** What the sheet knows of the system that the caller names: what lamp and cluster may show, and what each says of the immobilizer. */
export interface CallSystem {
  family: string;
  title: string;
  lamps: LaidLamp[];
  /** The verdict that each pattern alone would give; patterns that say nothing of the immobilizer are left out. */
  tells: Record<string, TriageKind>;
  tools: string[];
}

/** A lamp in a film that was watched and tapped along. */
export interface Film {
  moment: LampMoment;
  recording: Recording;
}

export function callSystem(family: Family, profile?: Profile): CallSystem {
  const params = resolveParams(family, profile);
  const lamps = resolveLamps(family.lamps, params);
  const facts = { changed: [], symptoms: [], keys: ['A'], runs: {}, verified: false };
  const tell = (means: { test: string; outcome: string }): TriageKind => {
    const evidence = [{ id: 'call', key: 'A', ...means }];
    return triage(family, assess(family, valuesOf(params), facts, evidence).links, { ...facts, askedWhatChanged: false }, evidence).kind;
  };
  return {
    family: family.id,
    title: family.title,
    lamps,
    tells: Object.fromEntries(lamps.flatMap((l) => (l.means ? [[l.id, tell(l.means)] as const] : []))),
    tools: [...new Set(family.tests.flatMap((t) => t.tools))],
  };
}

/** What the immobilizer says by the film that was watched, or else by what was described; undefined where neither is known. */
export function immobilizerSays(system: CallSystem, answers: Readonly<Record<string, string>>, film: Film | null): CallFacts['immobilizer'] {
  const patterns = film ? system.lamps.filter((l) => l.moment === film.moment && l.segments) : [];
  if (film && patterns.length > 0) {
    const reading = readLamp(patterns, film.recording);
    const first = reading.patterns[0]!;
    const kind = reading.state === 'decided' ? system.tells[first.id] : undefined;
    if (!kind) return { kind: 'notClear', say: sentences.fromVideo(seenWords(reading.features)) };
    return { kind, say: sentences.patternFromVideo(patterns.find((p) => p.id === first.id)!.title, formatChance(first.p)) };
  }
  const described = system.lamps.find((l) => l.id === answers.lamp);
  const kind = described && system.tells[described.id];
  return kind ? { kind, say: described.title } : undefined;
}

/** The advice with what is known of the system; without one, from the answers alone. */
export function adviseWith(sheet: CallSheet, system: CallSystem | null, answers: Readonly<Record<string, string>>, film: Film | null): CallAdvice {
  if (!system) return adviseCall(sheet, { answers });
  const immobilizer = immobilizerSays(system, answers, film);
  const advice = adviseCall(sheet, { answers, family: system.family, ...(immobilizer ? { immobilizer } : {}) });
  if (system.tools.length === 0) return advice;
  return { ...advice, bring: { ...advice.bring, us: [...advice.bring.us, sentences.forThisSystem(system.tools.join(', '))] } };
}
