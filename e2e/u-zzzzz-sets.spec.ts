import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { accessible } from './accessible';
import { expect, test, type Page } from './test';

// Sets of finished files, with what goes along, made and brought up to date.
test.describe('a set', () => {
  let shootId: string;
  test.beforeAll(async ({ request }) => {
    const shoots = (await (await request.get('/api/shoots')).json()) as { id: string; frames: number }[];
    shootId = shoots.find(({ frames }) => frames >= 20)!.id;
  });

  const verdicts = async (page: Page): Promise<Map<string, string>> => {
    const answer = await page.request.get(`/api/shoots/${shootId}/frames`);
    const { columns } = (await answer.json()) as { columns: { id: string[]; verdict: string[] } };
    return new Map(columns.id.map((id, i) => [id, columns.verdict[i]!]));
  };
  /** Keeps or rejects a frame in Cull. */
  const mark = async (page: Page, frame: string, key: 'f' | 'd') => {
    await page.goto(`/shoots/${shootId}/cull?view=single&frame=${frame}`);
    await expect(page.getByText(/^frame \d+ of \d+$/).first()).toBeVisible();
    await page.keyboard.press(key);
    await expect.poll(async () => (await verdicts(page)).get(frame)).toBe(key === 'f' ? 'keep' : 'reject');
  };

  test('goes out with raws and a proof sheet, and is brought up to date when keepers change', async ({
    page,
  }) => {
    const kept = [...(await verdicts(page))].flatMap(([id, verdict]) => (verdict === 'keep' ? [id] : []));
    await page.goto(`/shoots/${shootId}/deliver`);
    await page.getByRole('textbox', { name: 'Name of the set' }).fill('For the paper');
    const raws = page.getByRole('checkbox', { name: /^Raws with their sidecars/ });
    await raws.check();
    await page.getByRole('textbox', { name: 'Folder of the raws' }).fill('camera');
    await page.getByRole('checkbox', { name: /^A proof sheet/ }).check();
    await expect(page.getByText(/in “camera”, with a proof sheet, with a manifest/)).toBeVisible();
    await accessible(page);
    await page.getByRole('button', { name: /^Make \d+ files? and the zip$/ }).click();
    const set = page.getByRole('group', { name: 'Set “For the paper”' });
    await expect(set.getByText(/raws in “camera”, a proof sheet/)).toBeVisible({ timeout: 60_000 });
    await expect(set.getByRole('button', { name: 'Bring up to date' })).toBeHidden();
    // Under the same name no other is made.
    await page.getByRole('textbox', { name: 'Name of the set' }).fill('For the paper');
    await expect(page.getByText(/A set of this name lies in/)).toBeVisible();
    await expect(page.getByRole('button', { name: /and the zip$/ })).toBeDisabled();
    const pdf = await page.request.get(
      (await set.getByRole('link', { name: 'Open the proof sheet' }).getAttribute('href'))!,
    );
    const file = test.info().outputPath('sheet.pdf');
    writeFileSync(file, await pdf.body());
    expect(execFileSync('pdftotext', [file, '-'], { encoding: 'utf8' })).toContain('For the paper');
    await mark(page, kept[0]!, 'd');
    await page.goto(`/shoots/${shootId}/deliver`);
    await expect(set.getByText(/no part of it any more: /)).toBeVisible();
    await expect(set.getByText(/^Bringing it up to date takes .* out of the folder/)).toBeVisible();
    await accessible(page);
    await set.getByRole('button', { name: 'Bring up to date' }).click();
    await expect(set.getByText(/made 2 times/)).toBeVisible({ timeout: 60_000 });
    await expect(set.getByRole('button', { name: 'Bring up to date' })).toBeHidden();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      set.getByRole('link', { name: /^Download zip/ }).click(),
    ]);
    expect(execFileSync('unzip', ['-t', await download.path()], { encoding: 'utf8' })).toContain('No errors');
    await mark(page, kept[0]!, 'f');
  });

  test('stands in the ledger, with what was posted by hand, and each frame says that it went out', async ({
    page,
  }) => {
    await page.goto(`/shoots/${shootId}/deliver`);
    const out = page.getByRole('list', { name: 'What went out of this shoot' });
    await expect(out.getByText('For the paper').first()).toBeVisible();
    await page.getByRole('button', { name: 'Enter a posting …' }).click();
    await page.keyboard.type('The studio’s own page');
    await accessible(page);
    await page.keyboard.press('Enter');
    await expect(out.getByText('Posted: The studio’s own page')).toBeVisible();
    await page.getByRole('link', { name: 'Ledger of all shoots' }).click();
    await expect(page.getByRole('heading', { level: 1, name: 'Ledger' })).toBeVisible();
    const all = page.getByRole('list', { name: 'What went out' });
    await expect(all.getByText('Posted: The studio’s own page')).toBeVisible();
    await expect(page.getByRole('img', { name: /^By month\. .* kept, \d+ delivered/ })).toBeVisible();
    await accessible(page);
    await page.getByRole('combobox', { name: 'Year' }).selectOption({ index: 1 });
    await expect(page).toHaveURL(/year=\d{4}/);
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: 'List of all files as CSV' }).click(),
    ]);
    const lines = readFileSync(await download.path(), 'utf8')
      .trim()
      .split('\r\n');
    expect(lines.filter((line) => line.includes(',posting,The studio’s own page,')).length).toBeGreaterThan(
      0,
    );
    const kept = [...(await verdicts(page))].find(([, verdict]) => verdict === 'keep')![0];
    await page.goto(`/shoots/${shootId}/cull?view=single&frame=${kept}`);
    await page.getByRole('link', { name: /^delivered / }).click();
    await expect(page.getByText(/What went out of this frame/)).toBeVisible();
    await page.getByRole('button', { name: 'Take out “The studio’s own page”' }).click();
    await expect(page.getByText('Posted: The studio’s own page')).toBeHidden();
    await expect(page.getByText('For the paper').first()).toBeVisible();
  });

  test('is sent to a server, which is told nothing before its key is trusted, and says what was proven', async ({
    page,
  }) => {
    const { servers } = (await (await page.request.get('/api/stand-ins')).json()) as {
      servers: { id: string; port: number; user: string; password: string }[];
    };
    const sftp = servers.find(({ id }) => id === 'sftp')!;
    await page.goto('/studio#destinations');
    await page.getByRole('button', { name: 'Add a destination …' }).click();
    const form = page.getByRole('form', { name: 'New destination' });
    await form.getByRole('textbox', { name: 'Name', exact: true }).fill('Agency');
    await form.getByRole('combobox', { name: 'It is' }).selectOption('sftp');
    await form.getByRole('textbox', { name: 'Server' }).fill('127.0.0.1');
    await form.getByRole('spinbutton', { name: 'Port' }).fill(String(sftp.port));
    await form.getByRole('textbox', { name: 'Name there' }).fill(sftp.user);
    await form.getByRole('textbox', { name: 'Password', exact: true }).fill(sftp.password);
    await accessible(page);
    await form.getByRole('button', { name: 'Keep it' }).click();
    const agency = page.getByRole('group', { name: 'Destination “Agency”' });
    await agency.getByRole('button', { name: 'Look at its key' }).click();
    await expect(agency.getByText(/^SHA256:/)).toBeVisible();
    await accessible(page);
    await agency.getByRole('button', { name: 'Trust this key' }).click();
    await expect(agency.getByText(/written to and read back/)).toBeVisible();
    await page.goto(`/shoots/${shootId}/deliver`);
    const set = page.getByRole('group', { name: 'Set “For the paper”' });
    await set.getByRole('button', { name: 'Send …' }).click();
    await expect(page.getByRole('dialog', { name: 'Send “For the paper”' })).toBeVisible();
    await accessible(page);
    await page.getByRole('textbox', { name: /^Only these frames/ }).fill('no-such-frame');
    await expect(page.getByText('No frame of this shoot ends so: “no-such-frame”')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Send', exact: true })).toBeDisabled();
    await page.getByRole('textbox', { name: /^Only these frames/ }).fill('');
    await page.getByRole('button', { name: 'Send', exact: true }).click();
    await expect(set.getByText(/all read back there, and the same/)).toBeVisible({ timeout: 60_000 });
  });
});
