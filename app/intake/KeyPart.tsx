import AddOutlined from '@mui/icons-material/AddOutlined';
import DeleteOutlined from '@mui/icons-material/DeleteOutlined';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import { abilities, type Ability, chipMemories, keyExtents, keyKinds, keyRoles } from '../../core/library';
import { Choice } from '../ui/Choice';
import { Fit, type Needs } from './Fit';
import { freeTag, type Intake, type KeyFields, newKey, newKeyPlan, newPart } from './fields';
import styles from './intake.module.css';
import { Field, Pick, type Section } from './parts';

/** What a customer can say of a key. */
const tellable: Ability[] = ['turns', 'doors', 'remote', 'cranks', 'runs'];

/** Every key by a tag: those that came, those that exist elsewhere, and new ones that are to be fitted. */
export function KeyPart({ value: f, put, errors, needs, labour }: Section<Intake> & { needs: Needs; labour: string }) {
  const tags = [...f.keys.map((k) => k.tag), ...f.parts.map((p) => p.tag)];
  const change = (i: number, more: Partial<KeyFields>) =>
    put(
      'keys',
      f.keys.map((k, n) => (n === i ? { ...k, ...more } : k)),
    );
  return (
    <>
      <ul className={styles.keys}>
        {f.keys.map((key, i) => (
          <KeyRow
            key={i}
            value={key}
            path={`keys.${i}`}
            errors={errors}
            put={(name, v) => change(i, { [name]: v })}
            remove={() =>
              put(
                'keys',
                f.keys.filter((_, n) => n !== i),
              )
            }
            needs={needs}
            labour={labour}
          />
        ))}
      </ul>
      {f.keys.length === 0 && f.kind === 'vehicle' && (
        <p>No key came with it. Check this only if it is true: without a key nothing can be learned in the car.</p>
      )}
      <div className={styles.adds}>
        <Button
          startIcon={<AddOutlined />}
          variant="outlined"
          onClick={() => put('keys', [...f.keys, newKey(freeTag(tags, 'key'))])}
          disabled={f.keys.length >= 12}
        >
          Another key
        </Button>
        <Button
          startIcon={<AddOutlined />}
          variant="outlined"
          onClick={() => put('keys', [...f.keys, { ...newKey(freeTag(tags, 'key')), role: 'user', here: false, toFit: newKeyPlan() }])}
          disabled={f.keys.length >= 12}
        >
          A new key to be made
        </Button>
        {f.kind === 'parts' && (
          <Button
            startIcon={<AddOutlined />}
            variant="outlined"
            onClick={() => put('parts', [...f.parts, newPart(freeTag(tags, 'part'))])}
            disabled={f.parts.length >= 20}
          >
            A module or chip
          </Button>
        )}
      </div>
    </>
  );
}

function KeyRow({
  value: key,
  path,
  errors,
  put,
  remove,
  needs,
  labour,
}: Section<KeyFields> & { path: string; remove: () => void; needs: Needs; labour: string }) {
  const bound = (name: 'tag' | 'role' | 'kind' | 'marks' | 'colour' | 'condition' | 'cell' | 'note') => ({
    name: `${path}.${name}`,
    value: key[name],
    put: (v: string) => put(name, v),
    errors,
  });
  return (
    <li className={styles.key} data-new={key.toFit !== null || undefined}>
      <div className={styles.keyLine}>
        <Field {...bound('tag')} label="Tag" max={3} slotProps={{ htmlInput: { className: 'mono' } }} />
        <Pick {...bound('kind')} label="Kind" options={keyKinds} />
        <Pick {...bound('role')} label="Role (as told)" options={keyRoles} />
        <label className={styles.here}>
          <input type="checkbox" checked={key.here} onChange={(event) => put('here', event.target.checked)} /> is here
        </label>
        <IconButton aria-label={`Remove key ${key.tag}`} onClick={remove}>
          <DeleteOutlined />
        </IconButton>
      </div>
      <div className={styles.keyMore}>
        <Field {...bound('marks')} label="Marks" max={120} />
        <Field {...bound('colour')} label="Color" max={40} />
        <Field {...bound('condition')} label="Condition" max={120} />
        <Field {...bound('cell')} label="Key battery" max={40} />
      </div>
      {key.toFit ? (
        <NewKey
          value={key.toFit}
          path={`${path}.toFit`}
          kind={key.kind}
          errors={errors}
          put={(name, v) => put('toFit', { ...key.toFit!, [name]: v })}
          needs={needs}
        />
      ) : (
        <>
          {!key.here && (
            <p className={styles.warn}>
              It exists but is not here. If the stored keys are replaced without it, it will no longer start the vehicle, and adding it later means
              the same work again{labour}. Ask for it now.
            </p>
          )}
          <details className={styles.told}>
            <summary>What this key does (as told)</summary>
            {tellable.map((a) => (
              <fieldset key={a}>
                <legend>{abilities[a]}</legend>
                {(['yes', 'no'] as const).map((result) => (
                  <Choice
                    key={result}
                    type="checkbox"
                    checked={key.told[a] === result}
                    onChange={(event) => put('told', { ...key.told, [a]: event.target.checked ? result : '' })}
                  >
                    {result}
                  </Choice>
                ))}
              </fieldset>
            ))}
          </details>
        </>
      )}
    </li>
  );
}

export function NewKey({
  value: plan,
  path,
  kind,
  errors,
  put,
  needs,
}: Section<NonNullable<KeyFields['toFit']>> & { path: string; kind: string; needs: Needs }) {
  const bound = (name: keyof NonNullable<KeyFields['toFit']>) => ({
    name: `${path}.${name}`,
    value: plan[name],
    put: (v: string) => put(name, v),
    errors,
  });
  return (
    <>
      <div className={styles.keyMore}>
        <Pick {...bound('extent')} label="To buy" options={keyExtents} />
        <Field {...bound('chip')} label="Chip kind" max={60} />
        <Field {...bound('band')} label="Band" max={30} help="such as 421 MHz" />
        <Pick {...bound('memory')} label="Chip memory" options={chipMemories} />
        <Field {...bound('blade')} label="Blade" max={60} />
        <Field {...bound('cutBy')} label="Who cuts it" max={60} />
        <Field {...bound('price')} label="Price" quantity={{ unit: '', min: 0 }} />
      </div>
      <Fit kind={kind} plan={plan} needs={needs} />
    </>
  );
}
