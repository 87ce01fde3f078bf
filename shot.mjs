import { chromium } from '@playwright/test';
const base = process.env.BASE ?? 'http://localhost:4611';
const who = process.env.WHO ?? 'Ines Marrow';
const pass = { 'Teodor Lusk': 'samphire in the rain', 'Ines Marrow': 'curlew over the flats', 'Maud Ferrow': 'low tide at wexmoor' }[who];
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium' });
for (const arg of process.argv.slice(2)) {
  const [path, name, w, h, scheme = 'light', script = ''] = arg.split('|');
  const context = await browser.newContext({ viewport: { width: Number(w), height: h === 'full' ? 800 : Number(h) }, colorScheme: scheme, hasTouch: Number(w) < 500 });
  const page = await context.newPage();
  page.on('pageerror', (e) => console.log('pageerror', e.message));
  page.on('console', (m) => m.type() === 'error' && console.log('console', m.text()));
  await page.goto(base + '/sign-in');
  await page.waitForLoadState('networkidle');
  const options = await page.locator('select, [role=combobox], input').evaluateAll((els) => els.map((e) => e.outerHTML.slice(0, 160)));
  if (process.env.DEBUG) console.log(options);
  const { people } = await page.evaluate(() => ({ people: [...document.querySelectorAll('button')].map((b) => b.textContent) }));
  if (process.env.DEBUG) console.log(people);
  const r = await context.request.post(base + '/sign-in', { form: { name: who, passphrase: pass, intent: 'signIn', commandId: 'abcdefgh' + Math.random().toString(36).slice(2, 10) }, headers: { Origin: base }, maxRedirects: 0 });
  if (process.env.DEBUG) console.log(r.status(), (await r.text()).slice(0, 300));
  await page.goto(base + path);
  await page.waitForLoadState('networkidle');
  if (script) await new Function('page', `return (async()=>{${script}})()`)(page);
  await page.waitForTimeout(300);
  await page.screenshot({ path: `/tmp/${name}.png`, fullPage: h === 'full' });
  await context.close();
}
await browser.close();
