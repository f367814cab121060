import { expect, type Locator, type Page } from '@playwright/test';
import { avrixDoor, evening, owner, places, ready, standinsAt } from './world';

/** What a person does, counted: each thing that is typed, picked or pressed, and each address that is entered. */
export class Person {
  /** Where the business that it made is. */
  home = '';
  actions = 0;
  constructor(readonly page: Page) {}

  async open(address: string): Promise<void> {
    this.actions += 1;
    await this.page.goto(address);
    if (address.includes('/b/')) await ready(this.page);
  }
  async press(what: Locator): Promise<void> {
    this.actions += 1;
    await what.click();
  }
  button = (name: string | RegExp) => this.press(this.page.getByRole('button', { name, exact: true }));
  link = (name: string | RegExp) => this.press(this.page.getByRole('link', { name, exact: true }).first());
  async type(what: Locator, text: string): Promise<void> {
    this.actions += 1;
    await what.fill(text);
  }
  field = (name: string, text: string) => this.type(this.page.getByLabel(name, { exact: true }), text);
  async pick(name: string, words: string): Promise<void> {
    this.actions += 1;
    await this.page.getByRole('combobox', { name, exact: true }).selectOption({ label: words });
  }
  async settled(): Promise<void> {
    await expect(this.page.getByText('In the draft,').first()).toBeVisible();
  }
}

/** Moves everybody's clocks on, as time does. */
export async function pass(hours: number, pages: Page[]): Promise<void> {
  const at = evening + hours * 3_600_000;
  // The outside world first: a platform that is told before its own wait is over counts nothing.
  await standinsAt(at);
  await avrixDoor('clock', { at });
  for (const page of pages) await page.clock.setSystemTime(at);
}

/** A key that a service makes for a program. */
export async function makeKey(person: Person, page: string): Promise<string> {
  await person.open(page);
  await person.button('Make a key');
  return (await person.page.locator('#key').textContent())!;
}

export async function signUp(person: Person, name: string): Promise<void> {
  const { page } = person;
  await person.open(places.avrix);
  await person.field('Email', owner.mail);
  await person.field('Password', owner.password);
  await person.button('Sign in');
  await expect(page.getByRole('heading', { name: 'Make your first business.' })).toBeVisible();
  await ready(page);
  await person.field('Name', name);
  await person.field('Address of its website', places.larkmoor);
  await person.button('Make business');
  await expect(page.getByRole('heading', { name: 'Nothing has arrived yet: paste the snippet first.' })).toBeVisible();
  person.home = page.url().replace(/\?.*/, '');
}

/** Puts the snippet into the website's pages. */
export async function paste(person: Person): Promise<void> {
  const { page } = person;
  await ready(page);
  await person.link('Install the snippet');
  const snippet = (await page
    .getByText(/<script src=.*\/b\/[a-z-]+\.js/)
    .first()
    .textContent())!;
  await person.open(`${places.larkmoor}/office`);
  await person.field('In the head of every page', snippet);
  await person.button('Save');
}

/** Has the form's sendings counted, and its hidden field filled. */
export async function follow(person: Person): Promise<void> {
  const { page } = person;
  const told = page.waitForResponse((response) => response.url().includes('/take/'));
  await person.open(`${places.larkmoor}/fleet`);
  await told;
  const form = page.getByRole('region', { name: 'test-ride', exact: true });
  await expect(async () => {
    await page.goto(`${person.home}/capture/forms`);
    await expect(form).toBeVisible({ timeout: 1000 });
  }).toPass({ timeout: 60_000 });
  await ready(page);
  person.actions += 1;
  await person.press(form.getByRole('button', { name: 'Count its sendings as enquiries' }));
  await expect(form.getByRole('button', { name: 'Count its sendings as enquiries' })).toHaveCount(0);
  await person.press(
    form.getByRole('listitem').filter({ hasText: 'click_id' }).getByRole('link', { name: 'Write a rule' }),
  );
  await ready(page);
  await person.button('Add to draft');
  await person.settled();
}

/** Looks at the first report-back of a new outcome, which waits for that, and lets it go. */
export async function letFirstGo(person: Person): Promise<void> {
  const { page } = person;
  await person.open(`${person.home}/report-backs/queue`);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('1 report-back of FLT-QUAL waits for a look.');
  await person.button('Let 1 go');
  await expect(page.getByText('1 was let go.')).toBeVisible();
}

/** Buys in the shop what costs £95.00, £31.67 of it without delivery, tax and goods, and waits until the order is told. @returns its number */
export async function buyRainCover(page: Page): Promise<string> {
  await page.goto(`${places.larkmoor}/shop`);
  await page.getByRole('link', { name: 'Rain cover for the long box' }).click();
  const told = page.waitForResponse(
    (response) => response.url().includes('/take/') && (response.request().postData() ?? '').includes('"ordered"'),
  );
  await page.getByRole('button', { name: 'Pay £95.00' }).click();
  await told;
  return new URL(page.url()).searchParams.get('order')!;
}
