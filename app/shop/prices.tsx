import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useRef, useState } from 'react';
import { amountText, bookAt, type Decimals, formatAmount, itemsCsv, parseItems, type PriceBook, priceOf, taxText } from '../../core/quote';
import { may } from '../../server/acts/rights';
import { here } from '../../server/http/requestContext';
import { keptPrices, parsePrices, savePrices } from '../../server/shop/prices';
import { keptShop } from '../../server/shop/shop';
import { acting } from '../respond.server';
import { useTimes } from '../ui/clock';
import { ProblemSummary } from '../ui/problems';
import { TypedTable } from '../ui/TypedTable';
import { useAct } from '../ui/useAct';
import type { Route } from './+types/prices';
import { ShopNav } from './ShopNav';
import styles from './shop.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Prices · Bloodstone' }];
export const handle = { place: () => ({ title: 'Shop', detail: 'prices' }) };

export async function loader({ context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const [versions, shop] = [await keptPrices(services), await keptShop(services)];
  const now = bookAt(versions, services.clock.now());
  return {
    currency: shop.currency,
    /** The shop's own rate, where no price book has one yet. */
    rate: shop.labourRate,
    now: now ?? null,
    newest: versions[0]?.version ?? 0,
    versions: versions.map(({ version, from, by, at, book }) => ({
      version,
      from,
      by,
      at,
      items: book.items.length,
      inForce: version === now?.version,
    })),
    mayEdit: may(session!.person, 'setPrices'),
  };
}

export async function action(args: Route.ActionArgs) {
  const { db } = args.context.get(here).services.database;
  return acting('/shop/prices', args, {
    savePrices: async ({ form, act }) => {
      const { version } = await savePrices(db, act(), parsePrices(form));
      return { said: `Saved as version ${version}.`, version };
    },
  });
}

const kindWords = { labor: 'Labor', part: 'Part', outside: 'Outside work' } as const;

/** What the shop charges: in effect now, every version, and the owner's form for the next one. */
export default function Prices({ loaderData: d }: Route.ComponentProps) {
  const act = useAct<typeof action>('prices');
  const { day } = useTimes();
  // The form begins with what was there when it was opened, and stays as it is whatever anybody else saves meanwhile; it closes when it was saved.
  const [began, begin] = useState<Data | null>(null);
  const saved = (act.data as { version?: number } | undefined)?.version ?? 0;
  const edits = began !== null && saved <= began.newest;
  return (
    <div className={styles.page}>
      <h1 className="hidden">Prices</h1>
      <ShopNav />
      <ProblemSummary errors={act.errors} />
      <p role="status" className="quiet">
        {act.said}
      </p>
      <section className={styles.section} aria-labelledby="now">
        <h2 id="now">In effect</h2>
        {d.now ? (
          <Book book={d.now.book} currency={d.currency} items={!edits} />
        ) : (
          <p>No price book yet: estimates use the labor rate of the shop’s data, and no bill can be made.</p>
        )}
      </section>
      {d.mayEdit ? (
        edits ? (
          <Edit d={began} act={act} onLeave={() => begin(null)} />
        ) : (
          <Button variant="outlined" onClick={() => begin(d)} sx={{ justifySelf: 'start' }}>
            {d.now ? 'Change the prices' : 'Write the price book'}
          </Button>
        )
      ) : (
        <p className="quiet">The owner changes these.</p>
      )}
      {d.versions.length > 0 && (
        <section className={styles.section} aria-labelledby="versions">
          <h2 id="versions">Versions</h2>
          <ul className={styles.list}>
            {d.versions.map((v) => (
              <li key={v.version}>
                <div>
                  <b>Version {v.version}</b>, from {day(v.from)}
                  {v.inForce && ', in effect now'}
                  <br />
                  <span className="quiet">
                    {v.items === 1 ? '1 item' : `${v.items} items`}, saved {day(v.at)} by {v.by}
                  </span>
                </div>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

function Book({ book, currency, items }: { book: PriceBook; currency: string; items: boolean }) {
  const money = (amount: number) => formatAmount(amount, book.decimals, currency);
  return (
    <>
      <p>
        Labor {money(book.rate)} an hour, in steps of {book.stepMin} min, at least {book.leastMin} min.
        {book.callOut > 0 && ` Call-out ${money(book.callOut)}.`}
        {book.leastBill > 0 && ` Minimum bill: ${money(book.leastBill)}.`}
        {book.tax > 0 ? ` ${book.taxName || 'Tax'} ${taxText(book.tax)} %, added to the total.` : ' No tax is added.'}
      </p>
      {items && book.items.length > 0 && (
        <div className={styles.wide} tabIndex={0} role="group" aria-label="Items, scrollable">
          <table className={styles.prices} aria-label="Items">
            <thead>
              <tr>
                <th scope="col">Item</th>
                <th scope="col">Price</th>
                <th scope="col">Minutes</th>
                <th scope="col">Kind</th>
              </tr>
            </thead>
            <tbody>
              {book.items.map((i) => (
                <tr key={i.code}>
                  <th scope="row">
                    {i.title} <span className="quiet mono">{i.code}</span>
                  </th>
                  <td className="mono">{money(priceOf(i, book))}</td>
                  <td>{i.minutes ?? ''}</td>
                  <td>{kindWords[i.kind]}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <p>
        <a href="/shop/prices.csv" download>
          Export the items as CSV
        </a>
      </p>
    </>
  );
}

type Data = Route.ComponentProps['loaderData'];
const itemColumns = {
  kind: 'labor, part or outside',
  code: 'Short name',
  title: 'What it is',
  minutes: 'Minutes, of labor',
  price: 'Price',
} as const;

/** The next version: everything of the one in force, to be changed. */
function Edit({ d, act, onLeave }: { d: Data; act: ReturnType<typeof useAct<typeof action>>; onLeave: () => void }) {
  const book = d.now?.book;
  const places = book?.decimals ?? 2;
  const [decimals, setDecimals] = useState<Decimals>(places);
  const [items, setItems] = useState(book ? itemsCsv(book) : '');
  const text = (amount: number) => amountText(amount, places);
  const [fields, setFields] = useState({
    from: '',
    rate: book ? text(book.rate) : d.rate > 0 ? String(d.rate) : '',
    stepMin: String(book?.stepMin ?? 6),
    leastMin: String(book?.leastMin ?? 0),
    callOut: text(book?.callOut ?? 0),
    leastBill: text(book?.leastBill ?? 0),
    tax: taxText(book?.tax ?? 0),
    taxName: book?.taxName ?? '',
  });
  const input = useRef<HTMLInputElement>(null);
  const field = (name: keyof typeof fields, label: string, help?: string) => (
    <TextField
      name={name}
      label={label}
      value={fields[name]}
      onChange={(event) => setFields((f) => ({ ...f, [name]: event.target.value }))}
      error={name in act.errors}
      helperText={act.errors[name] ?? help}
      sx={{ maxWidth: 260 }}
      slotProps={{ htmlInput: { maxLength: 40, ...(name === 'taxName' ? {} : { inputMode: 'decimal' as const }) } }}
    />
  );
  const each = d.currency ? `In ${d.currency}` : undefined;
  return (
    <section className={styles.section} aria-labelledby="edit">
      <h2 id="edit">{book ? 'The next version' : 'The price book'}</h2>
      <form
        className={styles.section}
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          act.sendJson({ intent: 'savePrices', basedOn: d.newest, decimals, ...fields, items });
        }}
      >
        <div className={styles.row}>
          {field('rate', 'Labor, an hour', each)}
          {field('stepMin', 'Billed in steps of, min', 'A started step counts whole.')}
          {field('leastMin', 'At least, min')}
        </div>
        <div className={styles.row}>
          {field('callOut', 'Call-out', each)}
          {field('leastBill', 'Minimum bill', 'Before tax; 0: no minimum.')}
          {field('tax', 'Tax, %', 'On the total; 0: none.')}
          {field('taxName', 'Name of the tax', 'As printed on the bill.')}
        </div>
        <div className={styles.row}>
          <TextField
            name="decimals"
            label="Decimal places"
            select
            value={decimals}
            onChange={(event) => setDecimals(Number(event.target.value) as Decimals)}
            sx={{ maxWidth: 260, minWidth: 220 }}
          >
            {[0, 1, 2, 3].map((n) => (
              <MenuItem key={n} value={n}>
                {n}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            name="from"
            label="In effect from"
            type="date"
            value={fields.from}
            onChange={(event) => setFields((f) => ({ ...f, from: event.target.value }))}
            error={'from' in act.errors}
            helperText={act.errors.from ?? 'Empty: from now on.'}
            sx={{ maxWidth: 260 }}
            slotProps={{ inputLabel: { shrink: true } }}
          />
        </div>
        <TypedTable
          label="Items"
          columns={itemColumns}
          words={['kind', 'code', 'title']}
          text={items}
          put={setItems}
          read={parseItems(items, decimals)}
          fine={(read) => (read.length === 0 ? 'No item yet: labor by the minute, call-out and tax are enough for a bill.' : `${read.length} items.`)}
        />
        {act.errors.items && <p role="alert">{act.errors.items}</p>}
        <div className={styles.row}>
          <Button type="submit" variant="contained" loading={act.busy}>
            Save as version {d.newest + 1}
          </Button>
          <Button variant="outlined" onClick={() => input.current?.click()}>
            Take the items from a CSV file
          </Button>
          <Button color="inherit" onClick={onLeave}>
            Leave it as it is
          </Button>
          <input
            ref={input}
            type="file"
            accept=".csv,text/csv"
            className="hidden"
            tabIndex={-1}
            aria-label="CSV file of items"
            onChange={(event) => {
              const file = event.currentTarget.files?.[0];
              if (file) void file.text().then(setItems);
              event.currentTarget.value = '';
            }}
          />
        </div>
      </form>
    </section>
  );
}
