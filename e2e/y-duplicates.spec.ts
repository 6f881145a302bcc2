import { appendFileSync, copyFileSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { expect, test, type APIRequestContext, type Page } from './test';
import { accessible } from './accessible';
import { columnsOf } from './cullPage';

const card = path.resolve(
  import.meta.dirname,
  '../node_modules/.arkiv/test-cards/press-night-a-600/DCIM/101OCKHM',
);

/** Makes a folder one that is read from, and returns where it is taken in. */
async function readFrom(page: Page, folder: string, name: string): Promise<string> {
  await page.goto('/');
  await page.getByRole('button', { name: 'Take in from a folder …' }).click();
  await page.getByLabel('Full path of an existing folder').fill(folder);
  await page.getByRole('textbox', { name: /^Name/ }).fill(name);
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  const link = page.getByRole('link', { name: new RegExp(`^Take in .*: ${path.basename(folder)}$`) });
  return (await link.getAttribute('href'))!;
}

/** Takes in what stands at an address, and returns the shoot's id. */
async function takeIn(page: Page, address: string, title: string): Promise<string> {
  await page.goto(address);
  await page.getByRole('textbox', { name: 'Shoot' }).fill(title);
  await page.getByRole('button', { name: /to 2 drives and verify$/ }).click();
  await expect(page.getByRole('heading', { name: `${title} is taken in` })).toBeVisible({ timeout: 60_000 });
  const shoots = (await (await page.request.get('/api/shoots')).json()) as { id: string; title: string }[];
  return shoots.find((shoot) => shoot.title === title)!.id;
}

async function post(request: APIRequestContext, where: string, data: object): Promise<string> {
  const answer = await request.post(`/api${where}`, { data, headers: { 'x-arkiv': '1' } });
  const { jobId } = (await answer.json()) as { jobId: string };
  await expect
    .poll(
      async () =>
        ((await (await request.get(`/api/jobs/${jobId}`)).json()) as { job: { state: string } }).job.state,
    )
    .toBe('done');
  return jobId;
}

test('frames that are there twice are shown together, one stays by choice, and the other comes back from the bin', async ({
  page,
  request,
}) => {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'arkiv-e2e-folder-'));
  try {
    for (const name of readdirSync(card)
      .filter((file) => file.endsWith('.JPG'))
      .slice(1, 3)) {
      copyFileSync(path.join(card, name), path.join(folder, name));
      // Some bytes more: otherwise they would be recognised as archived already.
      appendFileSync(path.join(folder, name), 'twice');
    }
    const address = await readFrom(page, folder, 'Doubled');
    const shootId = await takeIn(page, address, 'Doubled');
    const frameIds = (await columnsOf(page, shootId)).id;
    // They went into the bin, were taken in once more, and came back.
    const binned = await post(request, '/bin', { deed: 'bin', shootId, frameIds });
    const again = await takeIn(page, address, 'Doubled again');
    await post(request, `/bin/jobs/${binned}/undo`, {});

    await page.goto('/bin');
    await page.getByRole('link', { name: 'Duplicates' }).click();
    const groups = page.getByRole('article', { name: /^2 frames like / });
    await expect(groups).toHaveCount(2);
    await accessible(page);
    // The first stands to stay; the other is chosen by keys.
    const choices = groups.first().getByRole('radio');
    await expect(choices.first()).toBeChecked();
    await choices.first().focus();
    await page.keyboard.press('ArrowDown');
    await expect(choices.nth(1)).toBeChecked();
    await expect(groups.first().getByText('would go')).toBeVisible();
    await groups.first().getByRole('button', { name: 'Put the other into the bin' }).click();
    await expect(groups).toHaveCount(1);
    await expect(page.getByText(/^1 frame is in the bin, doubled-again_.* stays/)).toBeVisible();
    expect((await columnsOf(page, shootId)).id).toHaveLength(1);
    expect((await columnsOf(page, again)).id).toHaveLength(2);
    // Its name leads to the frame, and Back to the list.
    await groups.first().getByRole('link').first().click();
    await expect(page.getByRole('heading', { level: 1, name: 'Cull' })).toBeAttached();
    await page.goBack();
    await expect(groups).toHaveCount(1);
    await page.reload();
    await expect(groups).toHaveCount(1);
    await page.goto('/bin');
    await page
      .getByRole('article', { name: /^1 frame of Doubled/ })
      .getByRole('button', { name: /back/i })
      .click();
    await expect.poll(async () => (await columnsOf(page, shootId)).id.length).toBe(2);
    await page.goto('/duplicates');
    await expect(groups).toHaveCount(2);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

test('a picture that is there in black and white as well stays in both ways, as one take', async ({
  page,
}) => {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'arkiv-e2e-folder-'));
  try {
    const [name] = readdirSync(card).filter((file) => file.endsWith('.JPG'));
    for (const [as, bytes] of [
      [name!, 'whole'],
      [name!.replace('.', '-BW.'), 'bw'],
    ] as const) {
      copyFileSync(path.join(card, name!), path.join(folder, as));
      appendFileSync(path.join(folder, as), bytes);
    }
    const shootId = await takeIn(page, await readFrom(page, folder, 'Ways'), 'Ways');
    await page.goto('/bin');
    await page.getByRole('link', { name: 'Variants' }).click();
    // Beside the one that was taken in from a card.
    const group = page.getByRole('article', { name: /^3 variants of / });
    await expect(group).toBeVisible();
    await accessible(page);
    await group.getByRole('button', { name: 'Keep all of Ways, as one take' }).focus();
    await page.keyboard.press('Enter');
    await expect(group.getByText('Those of Ways are one take in Cull; each stays.')).toBeVisible();
    await page.reload();
    await expect(group.getByText('Those of Ways are one take in Cull; each stays.')).toBeVisible();
    await group.getByRole('link', { name: /_0002$/ }).click();
    await expect(page.getByText('take 1 of 1')).toBeVisible();
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await columnsOf(page, shootId)).take).toEqual([null, null]);
    await page.goBack();
    await expect(group.getByRole('button', { name: 'Keep all of Ways, as one take' })).toBeVisible();
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
