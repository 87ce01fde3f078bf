import { readFileSync } from 'node:fs';
import { variablesCss } from './variables';

test('the style sheet holds the variables of the theme as it is: npm run theme', () => {
  const sheet = readFileSync('app/theme/variables.css', 'utf8');
  expect(sheet).toBe(variablesCss());
  // Both schemes, with a color that the theme names in each.
  expect(sheet).toMatch(/\[data-light\]\{[^}]*--mui-palette-primary-main:#2a7454;/);
  expect(sheet).toMatch(/\[data-dark\]\{[^}]*--mui-palette-primary-main:#4fae85;/);
});
