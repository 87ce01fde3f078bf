import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { randomUUID } from 'node:crypto';
import { useState } from 'react';
import { Form } from 'react-router';
import { parseBay, parseBayId, parseBayName, parseShop } from '../../server/accounts/forms';
import { parseFile } from '../../server/base/fields';
import { here } from '../../server/http/requestContext';
import { may } from '../../server/acts/rights';
import {
  addBay,
  equipment,
  listBays,
  pictureSize,
  readShop,
  removePicture,
  renameBay,
  retireBay,
  savePicture,
  saveShop,
} from '../../server/shop/shop';
import { acting } from '../respond.server';
import { useAct } from '../ui/useAct';
import { Choice } from '../ui/Choice';
import { Letterhead, type ShopOnPaper } from '../ui/Letterhead';
import { ProblemSummary } from '../ui/problems';
import type { Route } from './+types/shop';
import { UnitFields } from './UnitFields';
import { ShopNav } from './ShopNav';
import styles from './shop.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Shop · Bloodstone' }];
export const handle = { place: ({ shop }: Route.ComponentProps['loaderData']) => ({ title: 'Shop', detail: shop.name }) };

export async function loader({ context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const { db } = services.database;
  return {
    commandId: randomUUID(),
    shop: await readShop(db),
    picture: await pictureSize(db),
    bays: await listBays(db),
    equipment: Object.entries(equipment).map(([id, { say }]) => [id, say] as const),
    mayEdit: may(session!.person, 'editShop'),
  };
}

export async function action(args: Route.ActionArgs) {
  const { db } = args.context.get(here).services.database;
  return acting('/shop', args, {
    saveShop: async ({ form, act }) => saved(saveShop(db, act(), parseShop(form)), 'The shop’s data is saved.'),
    savePicture: async ({ form, services, act }) => {
      await savePicture({ db, files: services.files }, act(), parseFile(form.file));
      return { said: 'The picture is now at the top of the shop’s papers.' };
    },
    removePicture: async ({ act }) => saved(removePicture(db, act()), 'The picture is removed.'),
    addBay: async ({ form, act }) => saved(addBay(db, act(), parseBayName(form)), 'The place is added.'),
    renameBay: async ({ form, act }) => saved(renameBay(db, act(), parseBay(form)), 'The place was renamed.'),
    retireBay: async ({ form, act }) => saved(retireBay(db, act(), parseBayId(form)), 'The place is retired. Old cases keep its name.'),
  });
}
const saved = async (work: Promise<void>, say: string) => {
  await work;
  return { said: say };
};

export default function Shop({ loaderData: { shop, picture, bays, equipment: owned, mayEdit } }: Route.ComponentProps) {
  const act = useAct<typeof action>();
  const field = (name: string, help?: string) => ({ name, disabled: !mayEdit, error: name in act.errors, helperText: act.errors[name] ?? help });
  return (
    <div className={styles.page}>
      <h1 className="hidden">Shop</h1>
      <ShopNav />
      <ProblemSummary errors={act.errors} />
      <p role="status" className="quiet">
        {act.said}
      </p>
      {!mayEdit && <p className="quiet">A lead or the owner changes these.</p>}
      <Form method="post" className={styles.section} aria-label="Shop data" noValidate onSubmit={act.send('saveShop')}>
        <TextField {...field('name')} label="Name" defaultValue={shop.name} slotProps={{ htmlInput: { maxLength: 80 } }} />
        <TextField
          {...field('address', 'As printed on the report.')}
          label="Address"
          multiline
          minRows={2}
          defaultValue={shop.address}
          slotProps={{ htmlInput: { maxLength: 200 } }}
        />
        <TextField
          {...field('phone')}
          label="Phone"
          type="tel"
          defaultValue={shop.phone}
          sx={{ maxWidth: 240 }}
          slotProps={{ htmlInput: { maxLength: 40 } }}
        />
        <div className={styles.row}>
          <TextField
            {...field('currency')}
            label="Currency"
            defaultValue={shop.currency}
            sx={{ maxWidth: 200 }}
            slotProps={{ htmlInput: { maxLength: 8 } }}
          />
          <TextField
            {...field('labourRate', `${shop.currency || 'Currency'} an hour`)}
            label="Labor rate"
            defaultValue={shop.labourRate}
            sx={{ maxWidth: 240 }}
            slotProps={{ htmlInput: { inputMode: 'decimal', maxLength: 10 } }}
          />
        </div>
        <div className={styles.row}>
          <UnitFields units={shop.units} disabled={!mayEdit} />
        </div>
        <fieldset style={{ border: 0, padding: 0, margin: 0 }} disabled={!mayEdit}>
          <legend className="label">Equipment owned</legend>
          <div className={styles.row} style={{ marginTop: 8 }}>
            {owned.map(([id, say]) => (
              <Choice key={id} type="checkbox" name="equipment" value={id} defaultChecked={shop.equipment.includes(id)}>
                {say}
              </Choice>
            ))}
          </div>
        </fieldset>
        {mayEdit && (
          <Button type="submit" variant="contained" loading={act.busy} sx={{ justifySelf: 'start' }}>
            Save
          </Button>
        )}
      </Form>
      <OnPaper shop={{ ...shop, picture }} />
      <Picture picture={picture} mayEdit={mayEdit} />
      <section className={styles.section} aria-labelledby="bays">
        <h2 id="bays">Bays and vans</h2>
        {bays.length === 0 && <p>No place yet. Cases are in bays; the Floor shows each bay as a lane.</p>}
        <ul className={styles.list}>
          {bays.map((b) => (
            <li key={b.id}>
              <Form method="post" className={styles.row} onSubmit={act.send('renameBay')} aria-label={`Rename ${b.name}`}>
                <input type="hidden" name="bay" value={b.id} />
                <TextField
                  key={b.name}
                  name="name"
                  label="Name"
                  size="small"
                  defaultValue={b.name}
                  disabled={!mayEdit}
                  sx={{ maxWidth: 260 }}
                  slotProps={{ htmlInput: { maxLength: 40 } }}
                />
                {mayEdit && (
                  <Button type="submit" variant="outlined">
                    Rename
                  </Button>
                )}
              </Form>
              {mayEdit && (
                <Form method="post" onSubmit={act.send('retireBay')}>
                  <input type="hidden" name="bay" value={b.id} />
                  <Button type="submit" variant="text" color="error" aria-label={`Take ${b.name} out of use`}>
                    Out of use
                  </Button>
                </Form>
              )}
            </li>
          ))}
        </ul>
        {mayEdit && (
          <Form method="post" className={styles.row} aria-label="Add a place" onSubmit={act.send('addBay')}>
            <TextField key={bays.length} name="name" label="Another bay or van" slotProps={{ htmlInput: { maxLength: 40 } }} />
            <Button type="submit" variant="outlined">
              Add
            </Button>
          </Form>
        )}
      </section>
    </div>
  );
}

/** The head of the report as it is printed now. */
function OnPaper({ shop }: { shop: ShopOnPaper }) {
  return (
    <section className={styles.section} aria-labelledby="paper">
      <h2 id="paper">On paper</h2>
      <div className={styles.paper}>
        <Letterhead shop={shop}>
          <p className={styles.paperTitle}>Report, case 0417</p>
        </Letterhead>
        {[88, 96, 62].map((width) => (
          <span key={width} className={styles.paperLine} style={{ width: `${width}%` }} aria-hidden="true" />
        ))}
      </div>
    </section>
  );
}

/** What stands at the head of the report and of other papers. */
function Picture({ picture, mayEdit }: { picture: { width: number; height: number } | null; mayEdit: boolean }) {
  const act = useAct<typeof action>('picture');
  const [chosen, choose] = useState('');
  return (
    <section className={styles.section} aria-labelledby="picture">
      <h2 id="picture">Picture on papers</h2>
      <ProblemSummary errors={act.errors} />
      <p role="status" className="quiet">
        {act.said}
      </p>
      {picture ? (
        <img key={act.said} src="/shop/picture" alt="The shop’s picture" {...picture} className={styles.picture} />
      ) : (
        <p className="quiet">None yet. A sign or a logo, as JPEG or PNG; it goes at the top of the report.</p>
      )}
      {mayEdit && (
        <div className={styles.row}>
          <Form
            className={styles.row}
            aria-label="Choose the picture on papers"
            onSubmit={(event) => {
              act.send('savePicture')(event);
              choose('');
            }}
          >
            <Button component="label" role={undefined} tabIndex={-1} variant="outlined">
              {chosen || 'Choose a picture'}
              <input
                type="file"
                name="file"
                accept="image/jpeg,image/png"
                className="hidden"
                onChange={(event) => choose(event.target.files?.[0]?.name ?? '')}
              />
            </Button>
            {chosen && (
              <Button type="submit" variant="contained" loading={act.busy}>
                Put it on papers
              </Button>
            )}
          </Form>
          {picture && (
            <Form onSubmit={act.send('removePicture')}>
              <Button type="submit" variant="text" color="error">
                Remove the picture
              </Button>
            </Form>
          )}
        </div>
      )}
    </section>
  );
}
