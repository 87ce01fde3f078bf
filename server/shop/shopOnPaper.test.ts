import sharp from 'sharp';
import { usUnits } from '../../core/units';
import { parseShop } from '../accounts/forms';
import { Harness, lead, refusal, technician } from '../services/harness.testing';
import { readReport } from '../cases/report';
import { pictureSize, readPicture, readShop, removePicture, savePicture, saveShop } from './shop';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());

const png = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: '#2a7454' } })
    .png()
    .toBuffer();
const form = { name: 'Saltmarsh Auto Electric', currency: 'cr', labourRate: '84', units: usUnits, equipment: [] };

describe('the shop on its papers', () => {
  test('address and phone stand on the report; without them it has the name alone', async () => {
    const id = await harness.openCase();
    const shop = async () => (await readReport(harness.services, id))!.shop;
    expect(await shop()).toEqual({ name: 'Saltmarsh Auto Electric', address: '', phone: '', picture: null });
    await saveShop(harness.db, harness.act(), parseShop({ ...form, address: ' 4 Curlew Lane\nWexmoor ', phone: '555 0140' }));
    expect(await shop()).toEqual({ name: 'Saltmarsh Auto Electric', address: '4 Curlew Lane\nWexmoor', phone: '555 0140', picture: null });
    expect((await readShop(harness.db)).labourRate).toBe(84);
  });

  test('what is too long or holds a control sign is refused where it stands', () => {
    const problems = (more: object) => {
      try {
        parseShop({ ...form, ...more });
      } catch (error) {
        return (error as { problems: { path: string }[] }).problems.map((p) => p.path);
      }
      return [];
    };
    expect(problems({ address: 'x'.repeat(200), phone: '5'.repeat(40) })).toEqual([]);
    expect(problems({ address: 'x'.repeat(201), phone: '5'.repeat(41) })).toEqual(['address', 'phone']);
    expect(problems({ phone: '555\n0140' })).toEqual(['phone']);
    expect(problems({ address: '4 Curlew\u0007Lane' })).toEqual(['address']);
  });

  test('a picture is encoded anew, replaced by the next, and removed', async () => {
    await savePicture(harness.with, harness.act(), await png(60, 20));
    expect(await pictureSize(harness.db)).toEqual({ width: 60, height: 20 });
    expect((await readPicture(harness.db))!.type).toBe('image/png');
    const act = harness.act();
    const next = await png(30, 30);
    await savePicture(harness.with, act, next);
    expect(await pictureSize(harness.db)).toEqual({ width: 30, height: 30 });
    // The same act once more is harmless; with another picture it is refused.
    await savePicture(harness.with, act, next);
    expect(await refusal(savePicture(harness.with, act, await png(5, 5)))).toMatchObject({ status: 409 });
    expect(await pictureSize(harness.db)).toEqual({ width: 30, height: 30 });
    await removePicture(harness.db, harness.act());
    expect([await pictureSize(harness.db), await readPicture(harness.db)]).toEqual([null, undefined]);
  });

  test('what is no picture changes nothing, and a technician changes none', async () => {
    expect(await refusal(savePicture(harness.with, harness.act(lead), Buffer.from('not a picture')))).toMatchObject({
      status: 400,
      message: 'This is not a readable JPEG or PNG. Choose a photo.',
    });
    expect(await refusal(savePicture(harness.with, harness.act(technician), await png(5, 5)))).toMatchObject({ status: 403 });
    expect(await pictureSize(harness.db)).toBeNull();
  });
});
