/** Figures of a sentence: line, then what it bounds. */
export type Figures = [line: number, figures: Partial<Record<'minS' | 'maxS' | 'withinS' | 'n' | 'max', number>>];

/**
 * Texts that were written when the rules stood and read for the first time after they were put away; only their figures are expected, sentence by sentence.
 * All invented: no vehicle has these procedures. What came out at the first reading stands in docs/formats.md.
 */
export const fresh: readonly [name: string, text: string, figures: Figures[]][] = [
  [
    'numbered, plain',
    '1. Switch the ignition on.\n2. Wait 12 minutes.\n3. Switch the ignition off for 8 seconds.\n4. Repeat steps 1 to 3 two more times.',
    [
      [2, { minS: 720 }],
      [3, { minS: 8 }],
      [4, { n: 3 }],
    ],
  ],
  [
    'numbered, parentheses',
    '(1) Insert the key.\n(2) Hold the trip button for at least 7 s.\n(3) Release it within 15 seconds.',
    [
      [2, { minS: 7 }],
      [3, { withinS: 15 }],
    ],
  ],
  [
    'prose, one paragraph',
    'Turn the key to the second position and leave it there for 25 minutes. Then turn it back for 10 to 20 seconds. This is done three times in all. Start the engine within one minute.',
    [
      [1, { minS: 1500 }],
      [1, { minS: 10, maxS: 20 }],
      [1, { n: 3 }],
      [1, { withinS: 60 }],
    ],
  ],
  [
    'telegraphic capitals',
    'KEY ON\nWAIT 10 MIN 15 SEC\nKEY OFF 5 SEC MIN\nREPEAT 2 MORE TIMES',
    [
      [2, { minS: 615 }],
      [3, { minS: 5 }],
      [4, { n: 3 }],
    ],
  ],
  [
    'table with rule',
    '| Step | Time |\n|---|---|\n| Ignition on | 10 min |\n| Ignition off | at least 5 s |\n| Crank | at most 10 s |',
    [
      [3, { minS: 600 }],
      [4, { minS: 5 }],
      [5, { maxS: 10 }],
    ],
  ],
  [
    'words for numbers',
    'Wait eleven minutes. Turn the key from off to on six times within nine seconds. Hold the unlock button for four seconds.',
    [
      [1, { minS: 660 }],
      [1, { n: 6, withinS: 9 }],
      [1, { minS: 4 }],
    ],
  ],
  [
    'fractions',
    'Leave it on for 1/2 hour.\nLeave it off for 1 1/2 minutes.\nPress lock for 1/2 second.',
    [
      [1, { minS: 1800 }],
      [2, { minS: 90 }],
      [3, { minS: 0.5 }],
    ],
  ],
  [
    'decimal comma',
    'Wait 1,5 min.\nHold the button for 2,5 s.\nPress twice within 1,5 s.',
    [
      [1, { minS: 90 }],
      [2, { minS: 2.5 }],
      [3, { n: 2, withinS: 1.5 }],
    ],
  ],
  [
    'ranges by dash',
    'Ignition on 9–11 min.\nIgnition off 8-12 s.\nWait 60-90 seconds.',
    [
      [1, { minS: 540, maxS: 660 }],
      [2, { minS: 8, maxS: 12 }],
      [3, { minS: 60, maxS: 90 }],
    ],
  ],
  [
    'between',
    'Wait between 30 and 45 seconds.\nHold it for between 3 and 5 s.',
    [
      [1, { minS: 30, maxS: 45 }],
      [2, { minS: 3, maxS: 5 }],
    ],
  ],
  [
    'minutes and seconds together',
    'Wait 9 minutes and 30 seconds.\nWait 1 min 20 s.\nWait 1 hour 5 minutes.',
    [
      [1, { minS: 570 }],
      [2, { minS: 80 }],
      [3, { minS: 3900 }],
    ],
  ],
  [
    'clock times',
    'Leave the key on for 10:30.\nLeave it off for 0:05.',
    [
      [1, { minS: 630 }],
      [2, { minS: 5 }],
    ],
  ],
  [
    'not longer than',
    'Crank for no longer than 5 seconds.\nKeep it off for not more than 20 s.\nThe change must take less than 10 seconds.',
    [
      [1, { maxS: 5 }],
      [2, { maxS: 20 }],
      [3, { maxS: 10 }],
    ],
  ],
  [
    'within the next',
    'Within the next 20 seconds insert the new key.\nDo this within 8 to 10 seconds.',
    [
      [1, { withinS: 20 }],
      [2, { minS: 8, maxS: 10 }],
    ],
  ],
  [
    'keys at most',
    'Repeat for each additional key, at most 8 keys.\nProgram every remaining remote in the same way, up to 4.',
    [
      [1, { max: 8 }],
      [2, { max: 4 }],
    ],
  ],
  [
    'cycles',
    'Perform 3 cycles.\nDo the whole procedure four times in total.\nRepeat the cycle once more.',
    [
      [1, { n: 3 }],
      [2, { n: 4 }],
      [3, { n: 2 }],
    ],
  ],
  [
    'letters',
    'a. Open the door.\nb. Press the brake 5 times within 10 s.\nc. Wait 2 minutes.\nd. Close the door within 30 s.',
    [
      [2, { n: 5, withinS: 10 }],
      [3, { minS: 120 }],
      [4, { withinS: 30 }],
    ],
  ],
  ['a note with a time', 'Turn the key on.\nNote: the light may take 15 minutes.\nWait 10 minutes.', [[3, { minS: 600 }]]],
  ['a caution', 'Warning: never crank for more than 10 seconds.\nHold the brake for 3 s.', [[2, { minS: 3 }]]],
  [
    'light that stays',
    'Turn it on. The indicator flashes 4 times. It stays lit for 3 seconds. Turn it off.',
    [
      [1, { n: 4 }],
      [1, { minS: 3 }],
    ],
  ],
  [
    'approximately',
    'Wait approx. 5 minutes.\nWait about 90 seconds.\nAfter roughly 2 min turn it off.',
    [
      [1, { minS: 300 }],
      [2, { minS: 90 }],
      [3, { minS: 120 }],
    ],
  ],
  [
    'or more',
    'Leave it for 10 minutes or more.\nHold 5 s or longer.',
    [
      [1, { minS: 600 }],
      [2, { minS: 5 }],
    ],
  ],
  [
    'bullets',
    '• Lock the car.\n• Wait 30 min.\n• Unlock within 10 s.\n• Start.',
    [
      [2, { minS: 1800 }],
      [3, { withinS: 10 }],
    ],
  ],
  [
    'stars and x',
    '* Ignition on/off 3x.\n* Pause 4 s.\n* Unlock button 2x.',
    [
      [1, { n: 3 }],
      [2, { minS: 4 }],
      [3, { n: 2 }],
    ],
  ],
  [
    'step words',
    'Step 1: Key on.\nStep 2: Wait 720 seconds.\nStep 3: Key off for 10 s.',
    [
      [2, { minS: 720 }],
      [3, { minS: 10 }],
    ],
  ],
  [
    'hyphened units',
    'After a 10-minute wait the light goes out.\nA 5-second pause follows.',
    [
      [1, { minS: 600 }],
      [2, { minS: 5 }],
    ],
  ],
  [
    'half',
    'Wait half a minute.\nWait half an hour.\nWait two and a half minutes.\nWait a minute and a half.',
    [
      [1, { minS: 30 }],
      [2, { minS: 1800 }],
      [3, { minS: 150 }],
      [4, { minS: 90 }],
    ],
  ],
  [
    'at the most',
    'Keep the button pressed for 6 s at the most.\nThe pause is 3 seconds at most.',
    [
      [1, { maxS: 6 }],
      [2, { maxS: 3 }],
    ],
  ],
  [
    'tables by columns',
    'No | What | How long\n1 | Key on | 11 min\n2 | Key off | 6 to 9 s\n3 | Start | within 20 s',
    [
      [2, { minS: 660 }],
      [3, { minS: 6, maxS: 9 }],
      [4, { withinS: 20 }],
    ],
  ],
  ['no figures at all', 'Insert the key. Turn it on. Watch the light. Turn it off.', []],
  ['voltages are no times', 'Make sure the battery has 12.5 V.\nWait 10 min.', [[2, { minS: 600 }]]],
  ['key numbers are no counts', 'Insert key 2 within 10 s.\nTake key 1 out.', [[1, { withinS: 10 }]]],
  ['wrapped lines', 'Turn the ignition on and leave\nit on for 9 minutes 20 seconds until the\nlight goes out.\nTurn it off.', [[1, { minS: 560 }]]],
  [
    'twice and thrice',
    'Press unlock twice within 3 seconds.\nPress lock thrice.',
    [
      [1, { n: 2, withinS: 3 }],
      [2, { n: 3 }],
    ],
  ],
  [
    'for a second',
    'Press it for a second.\nPress it for one minute.',
    [
      [1, { minS: 1 }],
      [2, { minS: 60 }],
    ],
  ],
  [
    'hours',
    'Disconnect the battery for 2 hours.\nLeave it 1 hr.',
    [
      [1, { minS: 7200 }],
      [2, { minS: 3600 }],
    ],
  ],
  ['each with a time of its own', 'For every further key: insert it within 15 s and turn it on for 3 s.', [[1, { withinS: 15 }]]],
  ['several, unclear', 'Wait several minutes.\nCrank a few times.', []],
  [
    'two units in a range',
    'Wait 45 seconds to 1 minute.\nWait 90 s to 2 min.',
    [
      [1, { minS: 45, maxS: 60 }],
      [2, { minS: 90, maxS: 120 }],
    ],
  ],
];
