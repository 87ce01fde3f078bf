import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { parseExpression } from '../../../core/library';
import { type EditLine, figureSaid, type Lead, type Procedure, type Target, targetInWords, targetsFor, waySaid } from '../../../core/procedure';
import styles from './procedure.module.css';

/** What a step is measured by: seconds, a count, limits; each a number, or a number of the vehicle. */
export function CopyFigures({
  line,
  name,
  refigure,
}: {
  line: EditLine;
  name: string;
  refigure: (name: EditLine['figures'][number]['name'], value: string) => void;
}) {
  if (line.figures.length === 0) return null;
  return (
    <div className={styles.figures}>
      {line.figures.map((f) => {
        const wrong = parseExpression(f.value) === undefined;
        return (
          <TextField
            key={f.name}
            label={`${name}, ${figureSaid(f.name).toLowerCase()}${f.unit && `, ${f.unit}`}`}
            size="small"
            value={f.value}
            onChange={(e) => refigure(f.name, e.target.value)}
            error={wrong}
            helperText={wrong ? 'A number, or a number of the vehicle such as $offMin + 5' : undefined}
            slotProps={{ htmlInput: { maxLength: 60 } }}
          />
        );
      })}
    </div>
  );
}

/** Where the answers and limits of a step lead. */
export function CopyLeads({ line, who, stops, redirect }: { line: EditLine; who: string; stops: Procedure['stops']; redirect: (to: Lead) => void }) {
  if (line.leads.length === 0) return null;
  const said = (target: Target) => {
    const text = target.startsWith('stop.') ? stops[target.slice(5)]?.text : undefined;
    return text === undefined ? targetInWords(target) : `stop: ${text}`;
  };
  return (
    <details className={styles.leads}>
      <summary>
        Where it leads<span className="hidden">, {who}</span>
      </summary>
      {line.leads.map((lead) => {
        const what = lead.answer === undefined ? waySaid(lead.way!) : (line.says[lead.answer] ?? lead.answer);
        return (
          <TextField
            key={lead.answer ?? lead.way}
            label={what}
            select
            size="small"
            value={lead.to}
            onChange={(e) => redirect({ ...lead, to: e.target.value as Target })}
          >
            {[...new Set([...targetsFor({ stops }, line.looped), lead.to])].map((target) => (
              <MenuItem key={target} value={target} className={styles.target}>
                {said(target)}
              </MenuItem>
            ))}
          </TextField>
        );
      })}
    </details>
  );
}
