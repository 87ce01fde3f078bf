import { join } from 'node:path';
import { sentencesOfSource, words } from './words';

test('what a person reads of a page: text, read attributes, strings that are words', () => {
  const source = `
    import { x } from './some where';
    // A comment is not read.
    const kind: 'one two' | 'b' = 'b';
    export const say = (n: number) => \`Found \${n} keys on the ring.\`;
    export const Page = () => (
      <div className="a b" aria-label="State of the case" data-kind="not this one">
        Next up
        <Field help="Such as 1180." className="one two" />
        <b title={\`Case \${1} is open\`}>{ok ? 'Nothing was found.' : 'b'}</b>
      </div>
    );`;
  expect(sentencesOfSource(source, 'x.tsx').map((s) => `${s.place} ${s.text}`)).toEqual([
    '5 Found {…} keys on the ring.',
    '7 State of the case',
    '8 Next up',
    '9 Such as 1180.',
    '10 Case {…} is open',
    '10 Nothing was found.',
  ]);
});

test('the whole project: screens and content are in the list, tests are not', () => {
  const all = words(join(import.meta.dirname, '..'), false);
  const files = new Set(all.map((s) => s.file));
  expect(files).toContain('app/cases/Next.tsx');
  expect(files).toContain('content/families/ring.yaml');
  expect([...files].filter((f) => /\.test(ing)?\./.test(f))).toEqual([]);
  expect(all.map((s) => s.text)).toContain('Hand over and close.');
  for (const s of words(join(import.meta.dirname, '..'), true)) expect(s.old!.length).toBeGreaterThan(0);
});
