/** Modules that a scan report names, by what stands for them there. Longer names come before those that are part of them. */
const names = [
  ['immobilizer', /\b(?:immobili[sz]er(?: (?:control )?(?:module|unit|box))?|immo|anti[- ]theft|vehicle security|key box)\b/i],
  ['steering', /\b(?:steering(?: column)? lock(?: module)?|column lock(?: module)?|ESCL|ELV)\b/i],
  ['lock', /\b(?:electronic ignition switch|ignition switch module|EIS)\b/i],
  ['transmission', /\b(?:transmission(?: control)?(?: (?:module|unit))?|gearbox|TCM|TCU|EGS)\b/i],
  ['engine', /\b(?:engine(?: control)?(?: (?:module|unit))?|powertrain(?: control module)?|ECM|PCM|ECU|DME)\b/i],
  ['body', /\b(?:body(?: control)?(?: (?:module|unit))?|BCM|body electronics)\b/i],
  ['cluster', /\b(?:instrument (?:panel )?cluster|instrument panel|cluster|dashboard|IPC|IPM|ICM|combination meter)\b/i],
  ['brakes', /\b(?:anti[- ]?lock brakes?|brake(?:s| control module)|ABS|ESC|ESP)\b/i],
  ['airbag', /\b(?:air ?bags?|restraints?(?: control module)?|SRS|SDM|RCM)\b/i],
  ['gateway', /\b(?:(?:central )?gateway(?: module)?|CGW)\b/i],
  ['starter', /\b(?:smart key|keyless(?: entry)?(?: module)?|passive entry|PEPS|start[- ]stop module)\b/i],
  ['climate', /\b(?:climate(?: control)?|HVAC|air conditioning)\b/i],
  ['radio', /\b(?:radio|audio|infotainment|telematics)\b/i],
] as const satisfies readonly (readonly [string, RegExp])[];
export type ScannedModule = (typeof names)[number][0];

/** Every module that a report can name. */
export const scannedModules: readonly ScannedModule[] = names.map(([id]) => id);

/** What may follow the name in a heading: nothing, a sign, a number, or a word such as "codes"; "Engine speed" is none. */
const goesWithName = /^\s*(?:$|[-–:([,=*#]|\d|(?:module|unit|system|trouble|fault|codes?|dtcs?|scan|no|not|[A-D])\b)/i;
/** The longest line that can be a heading. */
const headingLength = 60;

/**
 * The module that some text names. `before`: text in front of a code on its line, of which the last name counts. `cell`: text behind it, where only a
 * cell that is nothing but a name counts, since descriptions name modules too. `heading`: a line of its own, where the name must stand at its beginning.
 */
export function moduleIn(text: string, where: 'before' | 'cell' | 'heading'): ScannedModule | undefined {
  if (where === 'cell') {
    for (const cell of text.split(/[,;\t|]/)) {
      const trimmed = cell.trim().replaceAll(/^"|"$/g, '');
      const found = names.find(([, pattern]) => pattern.exec(trimmed)?.[0] === trimmed);
      if (trimmed !== '' && found) return found[0];
    }
    return undefined;
  }
  if (where === 'heading') {
    const line = text.trim().replace(/^[-=*#\s\d.)[]+/, '');
    if (line.length > headingLength || /[.!?]$/.test(line)) return undefined;
    return names.find(([, pattern]) => {
      const found = pattern.exec(line);
      return found?.index === 0 && goesWithName.test(line.slice(found[0].length));
    })?.[0];
  }
  let best: { id: ScannedModule; at: number } | undefined;
  for (const [id, pattern] of names) {
    const at = pattern.exec(text)?.index ?? -1;
    if (at >= 0 && (best === undefined || at > best.at)) best = { id, at };
  }
  return best?.id;
}
