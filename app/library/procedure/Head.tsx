import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { type Effect, effectNames, effects, gates } from '../../../core/library';
import type { Given, Sheet } from './sheet';
import styles from './procedure.module.css';

/** What it is of, where it is from, what it does to keys, and where there is no way back. */
export function Head({ sheet, put, d, errors }: { sheet: Sheet; put: (c: Partial<Sheet>) => void; d: Given; errors: Record<string, string> }) {
  const steps = sheet.steps.filter((s) => !s.out);
  return (
    <section className={styles.head} aria-label="About the procedure">
      <TextField
        label="Title"
        value={sheet.title}
        onChange={(e) => put({ title: e.target.value })}
        error={'title' in errors}
        helperText={errors.title ?? 'What it does, on which vehicle'}
        slotProps={{ htmlInput: { maxLength: 120 } }}
      />
      <TextField
        label="System type"
        select
        value={sheet.family}
        onChange={(e) => put({ family: e.target.value })}
        error={'family' in errors}
        helperText={errors.family}
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
      >
        <MenuItem value="" disabled>
          Choose
        </MenuItem>
        {d.families.map((f) => (
          <MenuItem key={f.id} value={f.id}>
            {f.title}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        label="Source"
        value={sheet.source}
        onChange={(e) => put({ source: e.target.value })}
        error={'source' in errors}
        helperText={errors.source ?? 'Document and page'}
        slotProps={{ htmlInput: { maxLength: 600 } }}
      />
      <TextField
        label="What it does to the vehicle"
        select
        value={sheet.effect}
        onChange={(e) => put({ effect: e.target.value as Effect })}
        helperText={gates[sheet.effect].says}
      >
        {effects.map((e) => (
          <MenuItem key={e} value={e}>
            {effectNames[e]}
          </MenuItem>
        ))}
      </TextField>
      {gates[sheet.effect].authority && (
        <TextField
          label="Point of no return, before"
          select
          value={steps.some((s) => s.id === sheet.noReturn) ? sheet.noReturn : ''}
          onChange={(e) => put({ noReturn: e.target.value })}
          helperText="From there on keys or modules are changed"
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        >
          <MenuItem value="" disabled>
            Choose a step
          </MenuItem>
          {steps.map((s) => (
            <MenuItem key={s.id} value={s.id}>
              {sheet.steps.indexOf(s) + 1}: {s.text.slice(0, 60)}
            </MenuItem>
          ))}
        </TextField>
      )}
      <TextField
        label="Further cautions"
        select
        value={sheet.cautions}
        onChange={(e) => put({ cautions: e.target.value as unknown as string[] })}
        helperText="Cautions that the words of a step call for are added automatically"
        slotProps={{ select: { multiple: true } }}
      >
        {d.cautions.map((c) => (
          <MenuItem key={c.id} value={c.id}>
            {c.say}
          </MenuItem>
        ))}
      </TextField>
    </section>
  );
}
