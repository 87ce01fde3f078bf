import type { DraftStep } from './draft';

/** A text and what is to be understood of it: of each sentence its line, its kind and its figures. */
export interface DraftCase {
  name: string;
  text: string;
  title?: string;
  steps: readonly Omit<DraftStep, 'text' | 'steps'>[];
  /** Lines that a person must look at; left out: none. */
  unsure?: readonly number[];
}

/** Texts that the rules were written with. All invented: no vehicle has these procedures. */
export const cases: readonly DraftCase[] = [
  {
    name: 'wrapped lines, and a time over two units',
    text: `Turn the ignition on without starting the engine and leave
it on for 10 minutes 30 seconds. The security light
must go out.
Turn the ignition off.`,
    steps: [
      { kind: 'wait', line: 1, minS: 630 },
      { kind: 'observe', line: 2 },
      { kind: 'do', line: 4 },
    ],
  },
  {
    name: 'bullets, both systems of writing units',
    text: `Key learning

• Wait at least 15 sec.
• Wait 2 1/2 minutes.
• Wait half an hour.
• Wait an hour and a half.
• Wait 90 s or more.`,
    title: 'Key learning',
    steps: [
      { kind: 'wait', line: 3, minS: 15 },
      { kind: 'wait', line: 4, minS: 150 },
      { kind: 'wait', line: 5, minS: 1800 },
      { kind: 'wait', line: 6, minS: 5400 },
      { kind: 'wait', line: 7, minS: 90 },
    ],
  },
  {
    name: 'bounds on both sides',
    text: `1) Keep the key off for at least 5 seconds.
2) Keep the key off no longer than 30 seconds.
3) Turn the second key on in less than 10 seconds.
4) The pause takes between 10 and 15 seconds.
5) Leave it on for 20 seconds at most.`,
    steps: [
      { kind: 'wait', line: 1, minS: 5 },
      { kind: 'limit', line: 2, maxS: 30 },
      { kind: 'limit', line: 3, withinS: 10 },
      { kind: 'wait', line: 4, minS: 10, maxS: 15 },
      { kind: 'limit', line: 5, maxS: 20 },
    ],
  },
  {
    name: 'repetitions, clear ones and one that is not',
    text: `1. Repeat step 2 three more times.
2. Carry out this procedure for a total of four cycles.
3. Repeat twice more.
4. Repeat the steps three times.
5. Perform five cycles.`,
    steps: [
      { kind: 'repeat', line: 1, n: 4 },
      { kind: 'repeat', line: 2, n: 4 },
      { kind: 'repeat', line: 3, n: 3 },
      { kind: 'repeat', line: 4, n: 4 },
      { kind: 'repeat', line: 5, n: 5 },
    ],
    unsure: [4],
  },
  {
    name: 'two times in one sentence: one is kept, the line is marked',
    text: `Turn the key off, wait 10 seconds, and start the engine within 30 seconds.
Wait a few minutes.`,
    steps: [
      { kind: 'wait', line: 1, minS: 10 },
      { kind: 'do', line: 2 },
    ],
    unsure: [1, 2],
  },
  {
    name: 'a table without numbers, drawn with a rule',
    text: `| Action | Time |
|---|---|
| Key on | 9 min |
| Key off | 8 to 12 sec |`,
    steps: [
      { kind: 'wait', line: 3, minS: 540 },
      { kind: 'wait', line: 4, minS: 8, maxS: 12 },
    ],
  },
  {
    name: 'holds and counts in words',
    text: `Press and hold unlock and lock together for ten seconds.
Keep the button pressed for 4 to 6 s.
Turn the key from off to on eight times within ten seconds.
The lamp flashes 3 times.
Press lock 4x.`,
    steps: [
      { kind: 'hold', line: 1, minS: 10 },
      { kind: 'hold', line: 2, minS: 4, maxS: 6 },
      { kind: 'count', line: 3, n: 8, withinS: 10 },
      { kind: 'count', line: 4, n: 3 },
      { kind: 'count', line: 5, n: 4 },
    ],
  },
  {
    name: 'abbreviations end no sentence, numbers of keys are no counts',
    text: `Wait approx. 12 min. Then turn key 2 on. Program all remaining keys in the same way, up to eight.`,
    steps: [
      { kind: 'wait', line: 1, minS: 720 },
      { kind: 'do', line: 1 },
      { kind: 'each', line: 1, max: 8 },
    ],
  },
  {
    name: 'keys one after the other',
    text: `With all doors closed, insert a learned key and switch the ignition to RUN for three to ten seconds. Remove the key. Insert the second learned key within ten seconds and switch it to RUN for 3-10 s. Remove it, then insert the new key within 20 seconds. The security light stays on for three seconds.`,
    steps: [
      { kind: 'wait', line: 1, minS: 3, maxS: 10 },
      { kind: 'do', line: 1 },
      { kind: 'limit', line: 1, withinS: 10 },
      { kind: 'limit', line: 1, withinS: 20 },
      { kind: 'observe', line: 1, minS: 3 },
    ],
    unsure: [1],
  },
  {
    name: 'telegraphic, with a total',
    text: `IGN ON 12-13 MIN
LIGHT OUT?
ABOVE 3X TOTAL
START WITHIN 30 SEC`,
    steps: [
      { kind: 'wait', line: 1, minS: 720, maxS: 780 },
      { kind: 'observe', line: 2 },
      { kind: 'repeat', line: 3, n: 3 },
      { kind: 'limit', line: 4, withinS: 30 },
    ],
  },
  {
    name: 'a count in a time, without "within"',
    text: `No. | Act | Limit
1 | Press brake 3 times | in 5 s
2 | Press START once | within two seconds
3 | Keep fob at the column | 10 s or more
4 | Turn the adapter key six times in ten seconds |`,
    steps: [
      { kind: 'count', line: 2, n: 3, withinS: 5 },
      { kind: 'limit', line: 3, withinS: 2 },
      { kind: 'wait', line: 4, minS: 10 },
      { kind: 'count', line: 5, n: 6, withinS: 10 },
    ],
  },
  {
    name: 'remotes in bullets',
    text: `* Make sure the battery has 12.4 V.
* Press the lock button and the unlock button at the same time for at least 5 seconds.
* Release both, then press lock 2 times within 3 seconds.
* Up to 5 remotes can be learned; repeat for every remote.`,
    steps: [
      { kind: 'observe', line: 1 },
      { kind: 'hold', line: 2, minS: 5 },
      { kind: 'count', line: 3, n: 2, withinS: 3 },
      { kind: 'each', line: 4, max: 5 },
    ],
  },
  {
    name: 'parts of an hour',
    text: `Leave the key in the on position for a quarter of an hour. Switch it off. After half a minute switch it on again. Do this four times in all. Wait three quarters of an hour. Wait a couple of minutes.`,
    steps: [
      { kind: 'wait', line: 1, minS: 900 },
      { kind: 'do', line: 1 },
      { kind: 'wait', line: 1, minS: 30 },
      { kind: 'repeat', line: 1, n: 4 },
      { kind: 'wait', line: 1, minS: 2700 },
      { kind: 'do', line: 1 },
    ],
    unsure: [1],
  },
];
