import { expect, test, type Page } from '@playwright/test';
import type { Hit } from '../../src/core/capture';
import { hitsOf, places, setEvening } from './world';

/* What real pages do that no page should have to stop doing. */

const sentFrom = (hits: Hit[]) => hits.flatMap((hit) => (hit.kind === 'form_sent' ? [hit.leadToken] : []));
const waiting = (page: Page) =>
  page.evaluate(() => (JSON.parse(localStorage.getItem('avx_outbox_larkmoor') ?? '[]') as unknown[]).length);

test.beforeEach(({ context }) => setEvening(context));

test('a form whose fields hide its own properties keeps no other from being filled', async ({ page }) => {
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  await page.goto(`${places.larkmoor}/care?utm_source=larkmoor-letter&utm_medium=email`);
  await page.evaluate(() => {
    const names = ['id', 'name', 'elements', 'getAttribute', 'ownerDocument'];
    const hiding = document.createElement('form');
    hiding.innerHTML = names.map((name) => `<input name="${name}">`).join('');
    const other = document.createElement('form');
    other.innerHTML = '<input type="hidden" name="source">';
    document.body.append(hiding, other);
  });
  await expect(page.locator('form:last-of-type [name=source]')).toHaveValue('larkmoor-letter');
  expect(errors).toEqual([]);
});

test('a form in a frame that has the snippet too is told once', async ({ page }) => {
  const hits = hitsOf(page);
  await page.goto(`${places.larkmoor}/care?utm_source=larkmoor-letter&utm_medium=email`);
  await page.evaluate(() => {
    const frame = document.createElement('iframe');
    frame.src = '/fleet';
    document.body.append(frame);
  });
  const frame = page.frameLocator('iframe').last();
  await expect(frame.locator('form[name=test-ride] [name=source]')).toHaveValue('larkmoor-letter');
  await expect
    .poll(() => hits.filter(({ address }) => new URL(address).pathname === '/fleet').length)
    .toBeGreaterThan(0);
  await frame.locator('form[name=test-ride]').evaluate((form: HTMLFormElement) => {
    form.addEventListener('submit', (event) => event.preventDefault());
    form.dispatchEvent(new SubmitEvent('submit', { bubbles: true, cancelable: true }));
  });
  await expect.poll(() => sentFrom(hits).length).toBe(1);
  await expect.poll(() => waiting(page)).toBe(0);
  expect(new Set(sentFrom(hits)).size).toBe(1);
});

test('more forms with more fields than one body holds keep nothing else from arriving', async ({ page }) => {
  const hits = hitsOf(page);
  await page.goto(`${places.larkmoor}/care?utm_source=larkmoor-letter&utm_medium=email`);
  await page.evaluate(() => {
    for (let n = 0; n < 12; n++) {
      const form = document.createElement('form');
      form.setAttribute('name', `large-${n}`);
      const names = Array.from({ length: 60 }, (_, field) => `${field}-${'配'.repeat(110)}`);
      form.innerHTML = names.map((name) => `<input type="hidden" name="${name}">`).join('');
      document.body.append(form);
    }
  });
  await expect.poll(() => hits.some(({ kind }) => kind === 'forms_seen')).toBe(true);
  await page.evaluate(() => {
    const form = document.createElement('form');
    form.setAttribute('name', 'test-ride');
    form.innerHTML = '<input type="hidden" name="avx_lead">';
    form.addEventListener('submit', (event) => event.preventDefault());
    document.body.append(form);
    form.dispatchEvent(new SubmitEvent('submit', { bubbles: true, cancelable: true }));
  });
  await expect.poll(() => sentFrom(hits).length).toBeGreaterThan(0);
  await expect.poll(() => waiting(page)).toBe(0);
});
