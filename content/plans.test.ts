import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { replacementTable } from '../cli/replacement';
import { type AtHand, type FactName, type ModuleName, moduleNames, type Origin, origins, planReplacement, warningWords } from '../core/replacement';
import { heldBackReplacements } from './heldBackPlans.testing';
import { plannedReplacements } from './plans.testing';
import { shipped } from './session.testing';
import { often } from './often.testing';

/** What is at hand, from a list as the command line takes it. */
function atHand(list: readonly string[] | undefined): AtHand | undefined {
  if (list === undefined) return undefined;
  const count = (role: string) => Number(list.find((entry) => entry.startsWith(`${role}=`))?.split('=')[1] ?? 0);
  return {
    tools: list.filter((entry) => !entry.includes('=') && !entry.includes('.')),
    keys: { learned: count('learned'), main: count('main'), valet: count('valet'), master: count('master') },
    facts: list.filter((entry): entry is FactName => entry.includes('.')),
  };
}

describe('the plan that a practitioner would make', () => {
  test.each([...plannedReplacements, ...heldBackReplacements].map((planned) => [`${planned.family}: ${planned.name}`, planned] as const))(
    '%s',
    (_name, planned) => {
      const have = atHand(planned.have);
      const plan = planReplacement(shipped.replacements.get(planned.family)!, {
        replaced: planned.replaced,
        ...(have === undefined ? {} : { have }),
        ...(planned.byHand ? { byHand: true } : {}),
      });
      expect(plan.steps.map((s) => s.id)).toEqual(planned.steps.map(([id]) => id));
      expect(plan.cannot.map((c) => c.fact)).toEqual(planned.cannot);
      const warned = plan.warnings.map((w) => w.id);
      expect(warned).toEqual(expect.arrayContaining(planned.warnings));
      // What the core warns of is expected one by one.
      expect(warned.filter((id) => id in warningWords).sort()).toEqual(planned.warnings.filter((id) => id in warningWords).sort());
    },
  );
});

describe('every part of every system type, wherever the new one comes from, one or two at once', () => {
  const everyPlan = [...shipped.replacements.values()].flatMap((content) =>
    moduleNames.flatMap((a, i) =>
      moduleNames
        .slice(i)
        .flatMap((b) =>
          origins.flatMap((from) =>
            (a === b ? [from] : origins).map((also) => ({ content, replaced: { [a]: from, [b]: also } as Partial<Record<ModuleName, Origin>> })),
          ),
        ),
    ),
  );

  test('all fourteen types answer for all eight parts', () => {
    expect([...shipped.replacements.keys()].sort()).toEqual([...shipped.families.keys()].sort());
    expect(everyPlan.length).toBe(14 * (8 * 4 + 28 * 16));
  });

  test('no step before what it needs, nothing twice, no step without a reason; what can’t be is said with what then', () => {
    let withSteps = 0;
    // Every seventh, which meets every part of every type with each origin, unless the whole is asked for.
    const nth = often(1, 7);
    for (const { content, replaced } of everyPlan.filter((_, i) => i % nth === 0)) {
      for (const byHand of [false, true]) {
        const name = `${content.id} ${JSON.stringify(replaced)}${byHand ? ' by hand' : ''}`;
        const plan = planReplacement(content, { replaced, ...(byHand ? { byHand } : {}) });
        const ids = plan.steps.map((s) => s.id);
        expect({ name, twice: ids.filter((id, i) => ids.indexOf(id) !== i) }).toEqual({ name, twice: [] });
        plan.steps.forEach((step, i) => {
          const late = step.after.filter((id) => !ids.slice(0, i).includes(id));
          expect({ name, step: step.id, late, why: step.why.length > 20 }).toEqual({ name, step: step.id, late: [], why: true });
          if (byHand) expect({ name, step: step.id, by: step.by }).not.toEqual({ name, step: step.id, by: 'scanTool' });
        });
        for (const cannot of plan.cannot)
          expect({ name, fact: cannot.fact, because: cannot.because.length > 0, then: cannot.then.length > 20 }).toEqual({
            name,
            fact: cannot.fact,
            because: true,
            then: true,
          });
        // Whatever is gone is brought by a step, or said to stay lost.
        if (plan.steps.length > 0) {
          withSteps += 1;
          const brought = new Set(plan.steps.flatMap((s) => s.brings));
          const left = plan.lost.filter((f) => !brought.has(f) && !plan.cannot.some((c) => c.fact === f));
          expect({ name, left }).toEqual({ name, left: [] });
        } else expect({ name, said: plan.cannot.length + plan.plain.length > 0 }).toEqual({ name, said: true });
      }
    }
    expect(withSteps).toBeGreaterThan(3000 / nth);
  });

  test('docs/replacement.md is the table as the command prints it', () => {
    const written = readFileSync(join(import.meta.dirname, '../docs/replacement.md'), 'utf8');
    expect(written).toContain(
      replacementTable([import.meta.dirname])
        .join('\n')
        .trim(),
    );
  });
});
