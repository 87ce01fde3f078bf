// Writes the theme's variables as a style sheet (app/theme/variables.css).
import { writeFileSync } from 'node:fs';
import { variablesCss } from '../app/theme/variables';

writeFileSync('app/theme/variables.css', variablesCss());
