import { byOrder, type Instance, type Plan, planOf, settled, type StandingOrder, usualSpread } from '../../core/schedule';
import { log } from '../base/log';
import { Thread } from './thread';

/**
 * Situations of the plan that is there at once, by act: one narrow beam, which must come to the last act to find anything, and some that lead nowhere since a
 * limit passes meanwhile. Twelve cases with two technicians: some 100 ms.
 */
const perAct = 40;
const firstOf = ({ cases }: Instance): number => perAct * cases.reduce((n, c) => n + c.steps.length, 0);

/** Plans over all cases in work: the standing one at once, a better one when it is there. */
export interface Planner {
  /**
   * The plan as it stands now. Where something was done or came, the standing order goes on if it fits, and a new plan is looked for behind it.
   * @param name stands for what is to be done, whatever the time: cases, their steps, who works
   * @param found called once a plan that was looked for is there
   */
  now(name: string, instance: Instance, found: () => void): Plan;
  close(): Promise<void>;
}

/** @param worker file of the built worker; without one everything is calculated here, which is what tests do */
export function openPlanner(worker?: string): Planner {
  const thread = worker === undefined ? null : new Thread(worker, 'plan');
  /** `troubled`: nothing better was found at once either. */
  let standing: { name: string; order: StandingOrder; technicians: string; troubled: boolean } | undefined;
  let looking: string | undefined;
  const look = (name: string, instance: Instance, found: () => void): void => {
    if (!thread || looking === name) return;
    looking = name;
    thread
      .ask<Plan>({ instance })
      .then((fresh) => {
        // What was asked since is more than this answers.
        if (looking !== name) return;
        const before = standing?.order ?? [];
        const plan = settled(instance, before, fresh);
        standing = { name, order: plan.touches, technicians: JSON.stringify(instance.technicians), troubled: isTroubled(plan) };
        if (JSON.stringify(orderOf(before)) !== JSON.stringify(orderOf(standing.order))) found();
      })
      .catch((error: unknown) => log.error({ err: error }, 'A plan could not be made; the standing one goes on.'))
      .finally(() => {
        if (looking === name) looking = undefined;
      });
  };
  return {
    now(name, instance, found) {
      // An order for other hands is none.
      const technicians = JSON.stringify(instance.technicians);
      const kept = standing?.technicians === technicians ? byOrder(instance, standing.order) : undefined;
      if (standing?.name === name && kept && (!isTroubled(kept) || standing.troubled)) return kept;
      // What was done, or comes, may leave the standing order without a limit that another one keeps.
      const quick = () => planOf(instance, { spread: usualSpread, most: firstOf(instance), narrow: true });
      const plan = !kept ? quick() : isTroubled(kept) ? settled(instance, standing!.order, quick()) : kept;
      standing = { name, order: plan.touches, technicians, troubled: isTroubled(plan) };
      look(name, instance, found);
      return plan;
    },
    close: async () => thread?.close(),
  };
}

const isTroubled = (plan: Plan): boolean => plan.touches.some((t) => t.broken ?? t.tight);
const orderOf = (order: StandingOrder) => order.map((t) => [t.case, t.technician]);
