import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { devices } from '@playwright/test';
import { expect, test } from './test';
import { accessible } from './accessible';

const plate = (name: string) => path.resolve(import.meta.dirname, '../tools/demo/plates', name);

test.describe('an upload', () => {
  test('is chosen, dropped, cut off and gone on with; each file is proven, and then it is a card', async ({
    page,
    request,
  }) => {
    await page.goto('/');
    await page.getByRole('link', { name: 'upload', exact: true }).click();
    await expect(page.getByRole('heading', { name: 'Upload', exact: true })).toBeVisible();
    await page.getByLabel('What it is').click();
    await page.keyboard.type('Second photographer');
    // The line is cut in the midst of the second file, and the page is closed over it.
    let [line, asked] = [false, 0];
    await page.route('**/api/uploads/streams/**', (route) =>
      !line && route.request().method() === 'PATCH' && ++asked > 1 ? undefined : route.continue(),
    );
    await page.getByLabel('Choose files …').setInputFiles([plate('bowl-1.jpg'), plate('bowl-2.jpg')]);
    const said = page.getByRole('status').filter({ hasText: 'here and proven' });
    await expect(said).toContainText('1 of 2 files here and proven');
    await expect(page.getByRole('button', { name: 'That is all: take it in' })).toBeDisabled();
    await accessible(page);
    page.on('dialog', (dialog) => void dialog.accept());
    // The way stays laid: whatever is on its way when one is taken up never comes.
    await page.reload();
    line = true;
    const left = page.getByRole('group', { name: 'Second photographer' });
    await expect(left).toContainText('1 file is here');
    await left.getByRole('button', { name: 'Go on with it' }).click();
    await expect(page.getByRole('button', { name: 'Later' })).toBeVisible();
    await page.getByLabel('Choose files …').setInputFiles([plate('bowl-1.jpg'), plate('bowl-2.jpg')]);
    await expect(said).toContainText('2 of 2 files here and proven');
    await expect(said).toContainText('1 was here already');
    // The server is gone in the moment of the proof: tried again, it is proven, and not a byte is sent once more.
    let [cut, sentAgain] = [true, 0];
    await page.route(/\/api\/uploads\/[^/]+\/files\//, (route) =>
      cut && route.request().method() === 'POST' ? route.abort() : route.continue(),
    );
    await page.getByLabel('Choose files …').setInputFiles([plate('baron-1.jpg')]);
    await expect(said).toContainText('1 is not');
    cut = false;
    page.on('request', (request) => {
      if (request.method() === 'PATCH' && (request.postDataBuffer()?.length ?? 0) > 0) sentAgain += 1;
    });
    await page.getByRole('button', { name: 'Try it again' }).click();
    await expect(said).toContainText('3 of 3 files here and proven');
    expect(sentAgain).toBe(0);
    // Another one is dropped; it goes on while another screen is looked at.
    const dropped = await page.evaluateHandle(
      (bytes) => {
        const transfer = new DataTransfer();
        transfer.items.add(new File([new Uint8Array(bytes)], 'bowl-3.jpg', { type: 'image/jpeg' }));
        return transfer;
      },
      [...readFileSync(plate('bowl-3.jpg'))],
    );
    const place = page.getByRole('group', { name: 'Files to send' });
    await place.dispatchEvent('dragover', { dataTransfer: dropped });
    await place.dispatchEvent('drop', { dataTransfer: dropped });
    await page.getByRole('link', { name: 'Shoots', exact: false }).first().click();
    await page.goBack();
    await expect(said).toContainText('4 of 4 files here and proven');
    await page.getByRole('button', { name: 'That is all: take it in' }).click();
    await expect(page).toHaveURL(/\/intake\/[0-9A-Z]{26}$/);
    await expect(page.getByRole('main')).toContainText('4 frames');
    const reader = page.url().split('/').at(-1)!;
    await page.goto('/uploads');
    await expect(page.getByRole('link', { name: 'Take it in' })).toHaveAttribute('href', `/intake/${reader}`);
    // Off the list of readers it still waits here.
    await request.post(`/api/readers/${reader}/eject`, { headers: { 'x-arkiv': '1' } });
    await page.reload();
    await expect(left).toContainText('4 files are here');
  });

  test('comes by a link from somebody outside, who sees nothing else, and is a card for the studio', async ({
    page,
    browser,
    request,
  }) => {
    await page.goto('/uploads');
    await page.getByRole('button', { name: 'A link by which others send …' }).click();
    await page.keyboard.type('Rehearsal, second body');
    await accessible(page);
    await page.keyboard.press('Enter');
    const link = page.getByRole('group', { name: 'Rehearsal, second body' });
    await expect(link).toContainText('Nothing of 64 GB came by it');
    const address = (await link.getByRole('link').getAttribute('href'))!;
    const [, code] = /pass code (\S+)/.exec(await link.innerText())!;
    const outside = await browser.newContext({ ...devices['Pixel 7'] });
    const theirs = await outside.newPage();
    await theirs.goto(address);
    await accessible(theirs);
    await theirs.getByLabel('Your name').fill('Nele');
    await theirs.getByLabel('Pass code').fill(code!.toLowerCase().replace('-', ' '));
    await theirs.getByRole('button', { name: 'Send pictures' }).tap();
    // The line is cut in the midst of the second one, and the page is loaded anew.
    let [line, asked] = [false, 0];
    await theirs.route('**/streams/**', (route) =>
      !line && route.request().method() === 'PATCH' && ++asked > 1 ? undefined : route.continue(),
    );
    const choose = theirs.getByLabel('Choose pictures …');
    const said = theirs.getByRole('status').filter({ hasText: 'arrived and proven' });
    await choose.setInputFiles([plate('bowl-1.jpg'), plate('bowl-2.jpg'), path.resolve('README.md')]);
    await expect(said).toContainText('1 of 2 files arrived and proven');
    await expect(theirs.getByRole('main')).toContainText('no pictures, clips or sound: README.md');
    await expect(theirs.getByRole('button', { name: 'That is all' })).toBeDisabled();
    theirs.on('dialog', (dialog) => void dialog.accept());
    await theirs.reload();
    line = true;
    await expect(theirs.getByRole('main')).toContainText(/1 file, \d+ kB, arrived before/);
    await choose.setInputFiles([plate('bowl-1.jpg'), plate('bowl-2.jpg')]);
    await expect(said).toContainText('2 of 2 files arrived and proven');
    await expect(said).toContainText('1 was there already');
    // The studio sees them come.
    await expect(page.getByRole('group', { name: 'Rehearsal, second body: Nele' })).toContainText(
      '2 files are here',
    );
    await theirs.getByRole('button', { name: 'That is all' }).tap();
    await expect(theirs.getByRole('status').filter({ hasText: 'Thank you' })).toContainText(
      '2 files arrived',
    );
    await accessible(theirs);
    const receipt = theirs.waitForEvent('download');
    await theirs.getByRole('link', { name: 'Their checksums' }).tap();
    const sums = readFileSync((await (await receipt).path())!, 'utf8');
    const sum = createHash('sha256')
      .update(readFileSync(plate('bowl-1.jpg')))
      .digest('hex');
    expect(sums).toContain(`${sum}  bowl-1.jpg\n`);
    const ready = page.getByRole('link', { name: 'Take it in' }).last();
    await expect(page.getByRole('main')).toContainText('Rehearsal, second body: Nele 2 files');
    await ready.click();
    await expect(page.getByRole('main')).toContainText('2 frames');
    const reader = page.url().split('/').at(-1)!;
    await page.goto('/uploads');
    await link.getByRole('button', { name: /^Take it back/ }).click();
    await expect(link).toBeHidden();
    await theirs.reload();
    await expect(theirs.getByRole('heading')).toHaveText('The time to send pictures by this link is over.');
    await outside.close();
    await request.post(`/api/readers/${reader}/eject`, { headers: { 'x-arkiv': '1' } });
  });
});
