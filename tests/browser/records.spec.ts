import { expect } from '@playwright/test';
import { open, setEvening, signIn, test } from './world';

test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

test('records of one person are joined, a mailbox of two businesses joins nobody, and the CRM’s own mergers are followed', async ({
  page,
}) => {
  await open(page, '/leads/records');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    '2 people have several records, joined as one; 1 mailbox is shared and joins nobody.',
  );
  const joined = page.getByRole('region', { name: 'Joined records' });
  await expect(joined).toContainText(/Fennick Florist Rhys.*and Fennick Florist Rhys.*, same email/s);
  await expect(joined).toContainText(/Penrose Parcels Oona Trevail.*and Penrose Parcels Ltd.*merged in the CRM/s);
  const shared = page.getByRole('region', { name: 'Shared', exact: true });
  await expect(shared).toContainText(/A mailbox at marram-yard\.example of 2 people.*Marram Bread.*Marram Fish/s);
  const odd = page.getByRole('region', { name: 'Deals in the CRM' });
  await expect(odd.getByRole('row').filter({ hasText: 'Merged into' })).toHaveCount(1);
  await expect(odd.getByRole('row').filter({ hasText: 'Passed over' }).first()).toContainText('on the way to');
  await expect(odd.getByRole('row').filter({ hasText: 'Moved back' }).first()).toContainText('to Spoken');
});

test('a record is kept apart, stays so, and the trace of a merged deal says where it went on', async ({ page }) => {
  await open(page, '/leads/records');
  await page.getByRole('button', { name: 'Keep apart' }).click();
  const apart = page.getByRole('region', { name: 'Kept apart' });
  await expect(apart).toContainText(/Fennick Florist.*and.*Fennick Florist.*by Owner/s);
  await page.reload();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('1 person has several records');
  await apart.getByRole('button', { name: 'Undo' }).click();
  await expect(apart).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Keep apart' })).toBeVisible();
  await page.getByRole('row').filter({ hasText: 'Merged into' }).getByRole('link').click();
  await expect(page.getByText(/Merged into .* in the CRM/)).toBeVisible();
});
