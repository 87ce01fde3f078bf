import type { DraftCase } from './cases.testing';

/**
 * Texts with their expected steps that were written and committed before the rules, and are not looked at while the rules are changed. All invented: no
 * vehicle has these procedures.
 */
export const putAway: readonly DraftCase[] = [
  {
    name: 'numbered, seconds as s',
    text: `Relearn of the control unit
1. Switch all loads off.
2. Turn the key on for at least 7 s.
3. The light must come on.
4. Turn the key off and wait 12 to 15 s.
5. Perform steps 2 to 4 two more times (three cycles in all).
6. Start the engine within 30 s.`,
    title: 'Relearn of the control unit',
    steps: [
      { kind: 'do', line: 2 },
      { kind: 'wait', line: 3, minS: 7 },
      { kind: 'observe', line: 4 },
      { kind: 'wait', line: 5, minS: 12, maxS: 15 },
      { kind: 'repeat', line: 6, n: 3 },
      { kind: 'limit', line: 7, withinS: 30 },
    ],
  },
  {
    name: 'prose',
    text: `Insert the first key and turn it to ON. Leave it there for 1/2 hour; do not start. The indicator goes out when the time has passed. Then turn the key off for no longer than one minute and start the engine.`,
    steps: [
      { kind: 'do', line: 1 },
      { kind: 'wait', line: 1, minS: 1800 },
      { kind: 'observe', line: 1 },
      { kind: 'limit', line: 1, maxS: 60 },
    ],
  },
  {
    name: 'telegraphic',
    text: `BATTERY OK, LOADS OFF
KEY ON 10 MIN
LAMP OUT
KEY OFF 10 SEC
REPEAT 2X MORE
CRANK`,
    steps: [
      { kind: 'do', line: 1 },
      { kind: 'wait', line: 2, minS: 600 },
      { kind: 'observe', line: 3 },
      { kind: 'wait', line: 4, minS: 10 },
      { kind: 'repeat', line: 5, n: 3 },
      { kind: 'do', line: 6 },
    ],
  },
  {
    name: 'a table with bars',
    text: `Step | Action | Time
1 | Turn key 1 on, then off | within 5 seconds
2 | Turn key 2 on | within fifteen seconds
3 | Wait | 12 to 13 minutes`,
    steps: [
      { kind: 'limit', line: 2, withinS: 5 },
      { kind: 'limit', line: 3, withinS: 15 },
      { kind: 'wait', line: 4, minS: 720, maxS: 780 },
    ],
  },
  {
    name: 'counts',
    text: `- Sit in the driver's seat and close the doors.
- Press the brake pedal 6 times within 9 seconds.
- Press and hold the lock button for 3 seconds.
- The locks cycle twice.
- Repeat for each additional remote, at most 4.`,
    steps: [
      { kind: 'do', line: 1 },
      { kind: 'count', line: 2, n: 6, withinS: 9 },
      { kind: 'hold', line: 3, minS: 3 },
      { kind: 'count', line: 4, n: 2 },
      { kind: 'each', line: 5, max: 4 },
    ],
  },
  {
    name: 'warnings',
    text: `WARNING: Keep clear of the fan while the engine runs.
NOTE: A battery maintainer must be connected.
Step 1: Turn the ignition on and wait ten minutes.
Step 2: If the light does not go out, stop.
Step 3: Never interrupt the procedure.`,
    steps: [
      { kind: 'caution', line: 1 },
      { kind: 'caution', line: 2 },
      { kind: 'wait', line: 3, minS: 600 },
      { kind: 'observe', line: 4 },
      { kind: 'caution', line: 5 },
    ],
  },
  {
    name: 'words for numbers',
    text: `Cycle the key from off to on five times. On the fifth time leave it on. After a minute and a half the horn sounds once. Hold the start button for eight to ten seconds. Program the next key within twenty-five seconds.`,
    steps: [
      { kind: 'count', line: 1, n: 5 },
      { kind: 'do', line: 1 },
      { kind: 'wait', line: 1, minS: 90 },
      { kind: 'hold', line: 1, minS: 8, maxS: 10 },
      { kind: 'limit', line: 1, withinS: 25 },
    ],
  },
  {
    name: 'clock times and dashes',
    text: `a) Ignition on. Wait 10:30.
b) Ignition off, 5–8 s.
c) Repeat steps a and b for a total of 4 cycles.
d) Verify that the engine starts and keeps running.`,
    steps: [
      { kind: 'do', line: 1 },
      { kind: 'wait', line: 1, minS: 630 },
      { kind: 'wait', line: 2, minS: 5, maxS: 8 },
      { kind: 'repeat', line: 3, n: 4 },
      { kind: 'observe', line: 4 },
    ],
  },
];
