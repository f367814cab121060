import { expect } from '@playwright/test';
import { open, places, ready, setEvening, signIn, test } from './world';

test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

test('enquiries are answered, disqualified with a reason and taken back by keys alone', async ({ page }) => {
  await open(page, '/leads?quality=unanswered');
  const title = page.getByRole('heading', { level: 1 });
  const many = Number(/^\d+/.exec((await title.textContent())!)![0]);
  const first = (await page.getByRole('row').nth(1).getByRole('link').textContent())!;
  await page.keyboard.press('j');
  await page.keyboard.press('d');
  const why = page.getByRole('region', { name: 'Reason' });
  await expect(why).toContainText(`Why is ${first} disqualified?`);
  await page.keyboard.press('1');
  const said = page.getByRole('status').filter({ hasText: `${first}: disqualified, too small.` });
  await expect(said).toBeVisible();
  await expect(title).toContainText(`${many - 1} enquiries are unanswered`);
  await expect(page.getByRole('link', { name: `Unanswered ${many - 1}` })).toBeVisible();
  await said.getByRole('button', { name: 'Undo' }).click();
  await expect(title).toContainText(`${many} enquiries are unanswered`);
  // Escape leaves the question without an answer.
  await page.keyboard.press('x');
  await expect(page.getByRole('region', { name: 'Reason' })).toContainText('no enquiry?');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('region', { name: 'Reason' })).toHaveCount(0);
  await page.keyboard.press('a');
  await expect(title).toContainText(`${many - 1} enquiries are unanswered`);
});

test('how far an enquiry is answered is said by pointing at it, in the list and on the lead’s page', async ({
  page,
}) => {
  await open(page, '/leads?quality=unanswered');
  const row = page.getByRole('row').nth(1);
  const company = (await row.getByRole('link').textContent())!;
  await row.getByRole('button', { name: 'unanswered' }).click();
  const question = page.getByRole('region', { name: 'How far answered' });
  await expect(question).toContainText(`How far is ${company} answered?`);
  await question.getByRole('button', { name: /^Disqualified/ }).click();
  await page.getByRole('button', { name: /^no budget/ }).click();
  await expect(page.getByRole('status').filter({ hasText: `${company}: disqualified, no budget.` })).toBeVisible();
  await open(page, '/leads?quality=disqualified');
  await page.getByRole('link', { name: company }).first().click();
  await ready(page);
  await expect(page.getByText('Disqualified: no budget', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Change' }).click();
  await page.keyboard.press('4');
  await expect(page.getByRole('status').filter({ hasText: 'as the CRM says' })).toBeVisible();
  await expect(page.getByText('Unanswered', { exact: true })).toBeVisible();
});

test('a lead’s card goes into the CRM as a note, whose link leads back', async ({ page }) => {
  await open(page, '/leads?find=D-51');
  await page.getByRole('row').nth(1).getByRole('link').click();
  await ready(page);
  const here = page.url();
  const card = page.getByRole('region', { name: 'For sales' });
  await expect(card).toContainText('Came from');
  await card.getByRole('button', { name: 'Write into Oakledger as a note' }).click();
  await expect(card.getByRole('status').filter({ hasText: 'A note is in Oakledger since' })).toBeVisible();
  await expect(page.getByRole('row').filter({ hasText: 'Wrote a note in the CRM' })).toContainText('Owner');
  const number = /D-\d+/.exec((await page.getByRole('region', { name: 'What happened' }).textContent())!)![0];
  await page.goto(`${places.oakledger}/deals/${number}`);
  await page.getByRole('link', { name: here }).click();
  await expect(page.getByRole('region', { name: 'For sales' })).toBeVisible();
});

test('what was no enquiry leaves the list, stays visible by campaign, and is in the change log', async ({ page }) => {
  await open(page, '/leads?quality=unanswered');
  await page.keyboard.press('j');
  await page.keyboard.press('x');
  await page.getByRole('button', { name: /^a seller/ }).click();
  await expect(page.getByRole('status').filter({ hasText: 'no enquiry, a seller' })).toBeVisible();
  await page.getByRole('link', { name: 'No enquiry 1' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('1 enquiry is no enquiry at all.');
  await open(page, '/leads/answers?weeks=13');
  const byCampaign = page.getByRole('region', { name: 'Quality by campaign' });
  await byCampaign.getByRole('button', { name: 'No enquiry' }).click();
  await byCampaign.getByRole('button', { name: 'No enquiry' }).click();
  await expect(byCampaign.getByRole('row').nth(1).getByRole('cell').last()).toHaveText('1');
  await open(page, '/changes');
  await expect(page.getByText('no enquiry: a seller').first()).toBeVisible();
});

test('working hours are changed, kept over Back and reload, and change how long people waited', async ({ page }) => {
  await open(page, '/leads/answers?weeks=13');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    /^\d+ enquiries are unanswered; the oldest has waited \d+ h of working time\.$/,
  );
  const half = page
    .getByRole('region', { name: 'First answer by source' })
    .getByRole('row')
    .nth(1)
    .getByRole('cell')
    .nth(2);
  const before = (await half.textContent())!;
  const hours = page.getByRole('form', { name: 'Working hours' });
  await hours.getByLabel('Answers until').selectOption('12:00');
  await hours.getByRole('button', { name: 'Save hours' }).click();
  await expect(half).not.toHaveText(before);
  await page.reload();
  await expect(hours.getByLabel('Answers until')).toHaveValue('12:00');
  await page.getByRole('link', { name: '4 weeks', exact: true }).click();
  await expect(page.getByRole('link', { name: '4 weeks', exact: true })).toHaveAttribute('aria-current', 'true');
  await page.goBack();
  await expect(page.getByRole('link', { name: '13 weeks', exact: true })).toHaveAttribute('aria-current', 'true');
  await expect(hours.getByLabel('Answers until')).toHaveValue('12:00');
});
