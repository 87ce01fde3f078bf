import type { ParamValues, ResolvedParam } from '../library';
import { failed, ok, type Result } from '../units';
import { type Circumstances, decide } from './decide';
import type { Command, CommandBody } from './events';
import type { Program } from './program';
import { apply, fold, type RunState } from './state';
import { type RunView, view } from './view';
import { sentences } from './sentences';

/** A line of a replay file: a command and when it was given, in seconds from the start of the run. */
export type ReplayLine = { at: number } & (CommandBody | { type: 'start'; keys: string[] });

export interface ReplayReport {
  state: RunState['status'];
  step: string | null;
  due: { attention: RunView['attention']; instruction: string; secondsLeft: number | null }[];
  verdict: string;
  refused: { line: number; code: string; message: string }[];
}

/**
 * Runs commands through `decide` and `apply` as if a person had given them at the stated times, and tells how the run stands.
 * @param at moment of the look, seconds from the start; default: the time of the last line
 */
export function replay(
  program: Program,
  params: Record<string, ResolvedParam>,
  values: ParamValues,
  lines: readonly ReplayLine[],
  circumstances: Circumstances,
  at?: number,
): Result<ReplayReport> {
  const first = lines[0];
  if (first?.type !== 'start') return failed({ code: 'noStart', path: '[0]', message: sentences.noStart });
  const actor = { id: 'replay', name: sentences.replay };
  let state = fold(program, values, [
    { id: 'e0', seq: 0, actor, occurredAt: first.at * 1000, receivedAt: first.at * 1000, type: 'started', keys: first.keys },
  ]);
  const refused: ReplayReport['refused'] = [];
  for (const [i, line] of lines.slice(1).entries()) {
    if (line.type === 'start') return failed({ code: 'secondStart', path: `[${i + 1}]`, message: sentences.secondStart });
    const previous = lines[i]!;
    if (line.at < previous.at)
      return failed({
        code: 'order',
        path: `[${i + 1}].at`,
        message: sentences.order(line.at, previous.at),
      });
    const { at: seconds, ...body } = line;
    const moment = seconds * 1000;
    const command: Command = { id: `e${i + 1}`, expectedSeq: state.seq, occurredAt: moment, actor, ...body };
    const decision = decide(program, values, state, command, moment, circumstances);
    if (!decision.ok) refused.push({ line: i + 1, ...decision.refusal });
    else for (const event of decision.events) state = apply(program, values, state, event);
  }
  const now = 1000 * (at ?? lines.at(-1)!.at);
  const shown = view({ program, params, values, record: circumstances.record }, state, now);
  const running = shown.status === 'running';
  return ok({
    state: shown.status,
    step: running ? shown.step : null,
    due: running
      ? [
          {
            attention: shown.attention,
            instruction: shown.instruction,
            secondsLeft: shown.wait ? Math.round((shown.wait.until - now) / 100) / 10 : null,
          },
        ]
      : [],
    verdict: shown.stop?.text ?? (running ? shown.instruction : sentences.finished),
    refused,
  });
}
