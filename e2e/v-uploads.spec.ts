import { readFileSync } from 'node:fs';
import path from 'node:path';
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
    let asked = 0;
    await page.route('**/api/uploads/streams/**', (route) =>
      route.request().method() === 'PATCH' && ++asked > 1 ? undefined : route.continue(),
    );
    await page.getByLabel('Choose files …').setInputFiles([plate('bowl-1.jpg'), plate('bowl-2.jpg')]);
    const said = page.getByRole('status').filter({ hasText: 'here and proven' });
    await expect(said).toContainText('1 of 2 files here and proven');
    await expect(page.getByRole('button', { name: 'That is all: take it in' })).toBeDisabled();
    await accessible(page);
    page.on('dialog', (dialog) => void dialog.accept());
    await page.reload();
    await page.unroute('**/api/uploads/streams/**');
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
});
