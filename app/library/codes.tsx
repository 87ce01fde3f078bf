import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useId, useMemo, useState } from 'react';
import { Form, Link, useNavigate } from 'react-router';
import { explainCode, findCodes, type FoundCode, mostCharacters, mostExplained } from '../../core/codes';
import { CodeGroups, whereWords } from '../codes/CodeGroups';
import { Guesses } from '../codes/Guesses';
import { parseCodesQuery } from '../../server/cases/queries';
import { here } from '../../server/http/requestContext';
import { notChecked } from './notChecked';
import type { Route } from './+types/codes';
import library from './library.module.css';
import styles from '../codes/codes.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Trouble codes · Bloodstone' }];
export const handle = { place: () => ({ title: 'Library', detail: 'trouble codes' }) };

export function loader({ request, context }: Route.LoaderArgs) {
  const { library: content } = context.get(here).services;
  const { codes, profile } = parseCodesQuery(new URL(request.url).searchParams);
  const vehicle = content.profiles.get(profile);
  const family = vehicle && content.families.get(vehicle.family);
  const titleOf = new Map((family ? [family] : [...content.families.values()]).flatMap((f) => f.tests.map((t) => [t.id, t.title] as const)));
  const explained = codes.flatMap((code) => explainCode(code, content.codes, vehicle ? { profile, tests: new Set(titleOf.keys()) } : {}) ?? []);
  return {
    codes,
    profile: vehicle ? profile : '',
    vehicles: content.codes
      .flatMap((list) => list.profiles)
      .map((id) => ({ id, title: content.profiles.get(id)!.title }))
      .sort((a, b) => (a.title < b.title ? -1 : 1)),
    public: Object.keys(content.codes.find((list) => list.maker === undefined)?.codes ?? {}).length,
    checked: content.codes.every((list) => list.checked !== null),
    // Tests belong to a system type: without a vehicle nothing is named.
    explained: explained.map(({ tests, ...code }) => ({ ...code, tests: vehicle ? tests.map((t) => titleOf.get(t)!) : [] })),
  };
}

/** Any text with trouble codes in it: what each says, in the group where it belongs. The text stays in the browser; only the codes are asked for. */
export default function Codes({ loaderData: d }: Route.ComponentProps) {
  const navigate = useNavigate();
  const [text, setText] = useState(() => d.codes.join(', '));
  const [profile, setProfile] = useState(d.profile);
  const found = useMemo(() => findCodes(text.slice(0, mostCharacters)), [text]);
  const written = [...new Set(found.codes.map((c) => (c.failureType === undefined ? c.code : `${c.code}-${c.failureType}`)))];
  const help = useId();
  const explain = (vehicle: string) => {
    const asked = new URLSearchParams({ codes: written.slice(0, mostExplained).join(','), ...(vehicle === '' ? {} : { profile: vehicle }) });
    void navigate(`/library/codes?${asked}`, { preventScrollReset: true });
  };
  return (
    <div className={library.page}>
      <p>
        <Link to="/library">Library</Link>
      </p>
      <h1>Trouble codes</h1>
      <p className="quiet">
        {d.public} public trouble codes in our own words, and those of the makers in the Library. {!d.checked && notChecked} A dead key sets none: no
        code means little.
      </p>
      <Form
        className={library.form}
        onSubmit={(event) => {
          event.preventDefault();
          explain(profile);
        }}
      >
        <TextField
          label="Scan report or trouble codes"
          name="codes"
          multiline
          minRows={4}
          maxRows={12}
          value={text}
          onChange={(event) => setText(event.target.value)}
          helperText="Paste the text as it is. It stays in this browser; only the trouble codes in it are looked up."
          slotProps={{ htmlInput: { 'aria-describedby': help, maxLength: mostCharacters, spellCheck: false } }}
        />
        <TextField
          label="Vehicle"
          name="profile"
          select
          value={profile}
          onChange={(event) => {
            setProfile(event.target.value);
            if (d.codes.length > 0) explain(event.target.value);
          }}
          helperText="For its maker’s own trouble codes and the tests of its system type"
          slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
        >
          <option value="">Not said</option>
          {d.vehicles.map((v) => (
            <option key={v.id} value={v.id}>
              {v.title}
            </option>
          ))}
        </TextField>
        <p id={help} role="status" className={styles.count}>
          {written.length === 0 ? (text.trim() === '' ? 'No text yet.' : 'No trouble code found in this text.') : `${written.length} found.`}
          {written.length > mostExplained && ` Only the first ${mostExplained} are looked up.`}
        </p>
        <Guesses guesses={found.guesses} onConfirm={(g) => setText(`${text.slice(0, g.at)}${g.code}${text.slice(g.at + g.text.length)}`)} />
        <Button type="submit" variant="contained" disabled={written.length === 0} sx={{ minHeight: 56, justifySelf: 'start' }}>
          Explain trouble codes
        </Button>
      </Form>
      <CodeGroups codes={d.explained.map((e) => ({ ...e, where: whereOf(e, found.codes) }))} level="h2" />
    </div>
  );
}

/** Which module stored it and with which status, as the text above says. */
function whereOf(code: { code: string; failureType?: string }, found: readonly FoundCode[]): string {
  const said = found.filter((f) => f.code === code.code && f.failureType === code.failureType).map((f) => whereWords(f.module, f.status));
  return [...new Set(said.filter((s) => s !== ''))].join('; ');
}
