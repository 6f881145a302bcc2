import { spawn, type ChildProcess } from 'node:child_process';
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { expect, test, type Page } from './test';
import { accessible } from './accessible';

const root = path.resolve(import.meta.dirname, '..');

/** The server as `npm start` runs it: no simulated devices, a new archive in a home of its own. */
async function startOwn(
  home: string,
  port = '0',
  env: Record<string, string> = {},
): Promise<{ server: ChildProcess; base: string }> {
  const server = spawn(process.execPath, ['apps/server/dist/main.js'], {
    cwd: root,
    stdio: ['ignore', 'pipe', 'inherit'],
    env: {
      ...process.env,
      ...{ HOME: home, XDG_DATA_HOME: '', ARKIV_DATA: '', ARKIV_PORT: port, ARKIV_STAND_INS: '0' },
      ARKIV_WEB: path.join(root, 'apps/web/dist'),
      ...env,
    },
  });
  const base = await new Promise<string>((resolve, reject) => {
    server.stdout.on('data', (text) => {
      const found = /https?:\/\/[\d.:]+/.exec(String(text));
      if (found) resolve(found[0]);
    });
    server.on('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
  return { server, base };
}

test.describe('an archive of one’s own', () => {
  let home: string;
  let own: { server: ChildProcess; base: string };
  test.beforeEach(async () => {
    home = mkdtempSync(path.join(os.tmpdir(), 'arkiv-home-'));
    mkdirSync(path.join(home, 'Pictures'));
    mkdirSync(path.join(home, 'second disk'));
    own = await startOwn(home);
  });
  test.afterEach(async () => {
    own.server.kill();
    await new Promise((resolve) => own.server.once('exit', resolve));
    rmSync(home, { recursive: true, force: true });
  });

  /** Two frames, as their studio has them. */
  async function takeInBowls(page: Page) {
    const ask = async (method: string, where: string, data?: object) => {
      const answer = await page.request.fetch(`${own.base}/api${where}`, {
        ...{ method, data, headers: { 'x-arkiv': '1' } },
      });
      expect(answer.ok(), `${method} ${where}`).toBe(true);
      return (await answer.text()) === '' ? null : answer.json();
    };
    const card = path.join(home, 'card/DCIM/100OCKHM');
    mkdirSync(card, { recursive: true });
    for (const n of [1, 2])
      copyFileSync(path.join(root, `tools/demo/plates/bowl-${n}.jpg`), path.join(card, `OCK_000${n}.JPG`));
    await ask('PATCH', '/settings', { welcomed: true });
    const place = { root: path.join(home, 'Pictures'), name: 'Pictures', role: 'working', create: true };
    const volume = await ask('POST', '/volumes', place);
    const reader = await ask('POST', '/readers', { root: path.join(home, 'card'), name: 'A folder' });
    const { fingerprint } = await ask('GET', `/readers/${reader.id}/card`);
    const { pattern, folders } = await ask('GET', '/settings');
    const { shootId, jobId } = await ask('POST', '/intakes', {
      ...{ readerId: reader.id, fingerprint, title: 'Bowls', date: '2031-04-18', client: '', place: '' },
      ...{ pattern, folders, seqStart: 1, zoneMinutes: 0, targets: [volume.id] },
    });
    // Whichever comes first is stood at: both are there before anybody looks.
    await expect.poll(async () => (await ask('GET', `/jobs/${jobId}`)).job.state).toBe('done');
    return { shootId: String(shootId), ask };
  }

  test('begins with a visit of a minute, by keys alone, and is there the next time', async ({ page }) => {
    await page.goto(own.base);
    await expect(page.getByRole('heading', { name: 'Welcome to Arkiv' })).toBeVisible();
    await accessible(page);
    // The first field has the focus; the pictures' place is proposed.
    await page.keyboard.type('Lantern Row');
    await page.keyboard.press('Tab');
    await page.keyboard.type('Ines Ockham');
    await expect(page.getByLabel('Folder for the main copies')).toHaveValue(
      path.join(home, 'Pictures/Arkiv'),
    );
    await page.getByLabel('Folder or drive for the backup copies').focus();
    await page.keyboard.type(`${home}/sec`);
    await expect(page.getByRole('option', { name: 'second disk' })).toBeVisible();
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Begin' }).press('Enter');
    await expect(page.getByRole('heading', { name: 'Desk', level: 1 })).toBeVisible();
    await expect(page.getByText('On the same disk as This computer')).toBeVisible();
    const file = path.join(home, 'Pictures/Arkiv/.arkiv-volume.json');
    // A drive is signed after the answer.
    await expect
      .poll(() => JSON.parse(readFileSync(file, 'utf8')) as object)
      .toMatchObject({ archives: [{ name: 'Lantern Row' }] });
    expect(existsSync(path.join(home, '.local/share/arkiv/archive.sqlite'))).toBe(true);
    await page.reload();
    await expect(page.getByRole('heading', { name: 'Desk', level: 1 })).toBeVisible();
    await accessible(page);
  });

  test('can be begun without any answer; Studio takes them later and says what they change', async ({
    page,
  }) => {
    await page.goto(own.base);
    await page.getByRole('button', { name: 'Skip this' }).click();
    await expect(page.getByText('Put a card into a reader')).toBeVisible();
    await page.reload();
    await expect(page.getByText('Put a card into a reader')).toBeVisible();
    await page.getByRole('link', { name: 'Studio' }).click();
    await page.getByLabel('Creator').fill('Ines Ockham');
    await page.keyboard.press('Enter');
    await expect(page.getByText('Kept.')).toBeVisible();
    await page.reload();
    await expect(page.getByText('Each new sidecar says: creator “Ines Ockham”')).toBeVisible();
    await accessible(page);
  });

  test('says on every screen at once that its server is away, keeps what is marked, and sends it then', async ({
    page,
  }) => {
    const { shootId, ask } = await takeInBowls(page);
    await page.goto(`${own.base}/shoots/${shootId}/cull`);
    await expect(page.getByText('frame 1 of 2')).toBeVisible();
    // Screens' code is fetched beside the first one; what is there before the server goes can be gone to without it.
    const fetched = ['Handoff', 'Deliver', 'Files', 'Studio', 'Shoots'];
    await page.waitForFunction((names) => {
      const all = performance.getEntriesByType('resource') as PerformanceResourceTiming[];
      return names.every((n) => all.some((r) => r.name.includes(`/${n}Screen-`) && r.responseEnd > 0));
    }, fetched);
    const { port } = new URL(own.base);
    own.server.kill();
    await new Promise((resolve) => own.server.once('exit', resolve));
    const away = page.getByText(/The server is away since/);
    await expect(away).toBeVisible();
    await page.keyboard.press('d');
    await expect(page.getByTestId('marks')).toHaveText('reject');
    await expect(page.getByText('1 mark waits in this browser and goes when it is back.')).toBeVisible();
    const screens = ['Hand-off', 'Deliver', 'Files', 'Cull', 'Studio', 'Shoots', 'Desk'] as const;
    for (const name of screens) {
      await page.getByRole('link', { name: new RegExp(`^${name}`) }).click();
      await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
      await expect(away).toBeVisible();
    }
    await accessible(page);
    // It comes back while a screen is shown that could not be loaded: that one is whole by itself.
    await page.goBack();
    await page.goBack();
    await page.goBack();
    await page.getByRole('link', { name: /^Files/ }).click();
    own = await startOwn(home, port);
    await expect(away).toBeHidden({ timeout: 60_000 });
    await expect(page.getByRole('heading', { name: 'Where they are kept' })).toBeVisible();
    await expect(page.getByText(/^all 2 files/)).toBeVisible();
    for (const name of [...screens.slice(0, 4), 'Shoots', 'Desk']) {
      await page.getByRole('link', { name: new RegExp(`^${name}`) }).click();
      await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
      await expect(page.getByText(/^Loading /)).toHaveCount(0);
      await expect(page.getByRole('alert')).toHaveCount(0);
    }
    await expect(page.getByText(/marks? waits?/)).toBeHidden();
    await expect
      .poll(async () => (await ask('GET', `/shoots/${shootId}/frames`)).columns.verdict)
      .toContain('reject');
  });

  test('takes in by itself what comes into a watched folder, says before what would happen, and clears it when it is proven', async ({
    page,
  }) => {
    const { ask } = await takeInBowls(page);
    const drop = path.join(home, 'from the second body');
    mkdirSync(path.join(drop, 'private'), { recursive: true });
    const put = (n: number, as: string) =>
      copyFileSync(path.join(root, `tools/demo/plates/bowl-${n}.jpg`), path.join(drop, as));
    put(3, 'OCK_0003.JPG');
    put(4, 'private/OCK_0004.JPG');
    // One drive is all there is here, and one copy is what this studio asks for.
    await ask('PATCH', '/settings', { requiredCopies: 1 });
    await page.goto(`${own.base}/studio#watched`);
    await page.getByRole('button', { name: 'Watch a folder …' }).click();
    // The first field has the focus.
    await page.keyboard.type('Second body');
    const form = page.getByRole('form', { name: 'New watched folder' });
    await form.getByLabel('Full path of the folder').fill(drop);
    await form.getByLabel('Name of a folder whose pictures stay out').fill('Private');
    await form.getByLabel('Seconds for which a file must not change').fill('0');
    await form.getByLabel(/are moved into its bin/).check();
    const example = form.getByRole('status', { name: 'What would happen now' });
    await expect(example).toContainText('1 frame (1 file');
    await expect(example).toContainText('become “Second body”');
    await expect(example).toContainText('Not touched: 1 in the folder that stays out.');
    await accessible(page);
    await form.getByRole('button', { name: 'Keep it' }).click();
    await expect(page.getByText(/1 file taken in, last on/)).toBeVisible();
    // A second one goes into the same shoot, while somebody looks at the Desk.
    await page.getByRole('link', { name: /^Desk/ }).click();
    put(5, 'OCK_0005.JPG');
    await expect(page.getByText(/2 files taken in, last on/)).toBeVisible();
    await expect(page.getByRole('link', { name: 'Cull 2 left: Second body' })).toBeVisible();
    const left = () =>
      readdirSync(drop, { recursive: true }).filter((file) => /^[^.].*JPG$/.test(String(file)));
    await expect.poll(left).toEqual(['private/OCK_0004.JPG']);
    // What cannot be taken in stays, and is named.
    writeFileSync(
      path.join(drop, 'OCK_0006.JPG'),
      readFileSync(path.join(root, 'tools/demo/plates/bowl-6.jpg')).subarray(0, 900),
    );
    await expect(page.getByText(/OCK_0006.JPG: it seems not to be all there/)).toBeVisible();
    await accessible(page);
    // As a body shoots into the folder, Cull follows: each frame is gone to, until a hand goes elsewhere.
    await page.getByRole('link', { name: 'Cull 2 left: Second body' }).click();
    await expect(page.getByText('frame 1 of 2')).toBeVisible();
    await page.keyboard.press('Alt+End');
    await expect(page.getByText('Following the newest frame')).toBeVisible();
    await expect(page.getByText('frame 2 of 2')).toBeVisible();
    put(7, 'OCK_0007.JPG');
    await expect(page.getByText('frame 3 of 3')).toBeVisible();
    await page.keyboard.press('Home');
    put(8, 'OCK_0008.JPG');
    await expect(page.getByText('frame 1 of 4')).toBeVisible();
    await expect(page.getByText('you have gone to another: from the newest it goes on')).toBeVisible();
    await page.getByRole('button', { name: 'To the newest' }).click();
    await expect(page.getByText('frame 4 of 4')).toBeVisible();
    await accessible(page);
    await page.keyboard.press('Alt+End');
    await expect(page.getByText('Following the newest frame')).toBeHidden();
  });

  test('adopts a folder where it lies: culls it at once, sees what others change in it, and forgets it', async ({
    page,
  }) => {
    const tree = path.join(home, 'old disk/Pictures');
    const put = (n: number, as: string) => {
      const to = path.join(tree, as);
      mkdirSync(path.dirname(to), { recursive: true });
      copyFileSync(path.join(root, `tools/demo/plates/bowl-${n}.jpg`), to);
      // It has lain there for years.
      utimesSync(to, 1e9, 1e9);
    };
    put(1, '2019-06-01 Quay/one.jpg');
    put(2, '2019-06-01 Quay/two.jpg');
    put(3, 'Scans/three.jpg');
    const files = () => readdirSync(tree, { recursive: true }).map(String).sort();
    const before = files();
    const answer = await page.request.patch(`${own.base}/api/settings`, {
      ...{ data: { welcomed: true }, headers: { 'x-arkiv': '1' } },
    });
    expect(answer.ok()).toBe(true);
    await page.goto(own.base);
    await page.getByRole('link', { name: 'adopt a folder' }).click();
    const form = page.getByRole('form', { name: 'Adopt a folder' });
    await form.getByLabel('Full path of the folder').fill(tree);
    const example = form.getByRole('status', { name: 'What it would become' });
    await expect(example).toContainText('3 frames (3 files');
    await expect(example).toContainText('in 2 shoots');
    await expect(example).toContainText('becomes a drive of the archive, “old disk”');
    await expect(example).toContainText('Quay');
    await form.getByLabel(/Each day/).check();
    await expect(example).toContainText('Pictures 2001-09-09');
    await form.getByLabel(/Each folder directly in it/).check();
    await accessible(page);
    await form.getByRole('button', { name: 'Adopt it and cull' }).click();
    // By the keys, at once.
    await expect(page.getByText('frame 1 of 2')).toBeVisible();
    await page.keyboard.press('3');
    const shoot = page.url();
    const frames = shoot.replace(/\/shoots\/(.*)\/cull.*/, '/api/shoots/$1/frames');
    const stars = async () => (await (await page.request.get(frames)).json()).columns.stars;
    await expect.poll(stars).toEqual([3, 0]);
    // Somebody renames the picture and puts another beside it, with another program.
    renameSync(path.join(tree, '2019-06-01 Quay/two.jpg'), path.join(tree, '2019-06-01 Quay/landing.jpg'));
    put(4, '2019-06-01 Quay/four.jpg');
    await expect(page.getByText(/frame \d of 3/)).toBeVisible();
    await page.getByRole('link', { name: /^Desk/ }).click();
    await page.getByRole('link', { name: 'adopt a folder' }).click();
    await expect(page.getByText('4 frames in 2 shoots')).toBeVisible();
    await accessible(page);
    await page.goto(shoot.replace('/cull', '/files'));
    const adopted = page.getByText(/An adopted folder: nothing is written into it\./);
    await expect(adopted).toBeVisible();
    // Taken in, it lies in dated folders and is the archive's own; put back, it lies as it lay.
    await page.getByRole('button', { name: 'Take in', exact: true }).click();
    await page.getByRole('button', { name: 'Take in 3 frames' }).click();
    await expect(page.getByText('2019/2019-06-01_quay', { exact: true })).toBeVisible();
    await expect(adopted).toHaveCount(0);
    expect(files().filter((file) => file.endsWith('.jpg'))).toEqual(['Scans/three.jpg']);
    await accessible(page);
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(adopted).toBeVisible();
    await page.goBack();
    // Or the whole folder: what would be done is said before.
    await page.getByRole('button', { name: 'Take it in …' }).click();
    const whole = page.getByRole('dialog', { name: 'Take in “Pictures”?' });
    await expect(whole).toContainText('→ 2001/2001-09-09_scans/originals/scans_');
    await accessible(page);
    await page.keyboard.press('Escape');
    await expect(whole).toHaveCount(0);
    await page.getByRole('button', { name: 'Forget it …' }).click();
    await expect(page.getByRole('dialog')).toContainText('Every file stays where it lies');
    await page.keyboard.press('Enter');
    await expect(page.getByText('4 frames in 2 shoots')).toHaveCount(0);
    await page.getByRole('link', { name: /^Desk/ }).click();
    await expect(page.getByText('No shoot is archived yet.', { exact: false })).toBeVisible();
    expect(files()).toEqual(
      before
        .map((file) => file.replace('two.jpg', 'landing.jpg'))
        .concat('2019-06-01 Quay/four.jpg')
        .sort(),
    );
  });

  test('stands beside others on one computer: each has its name on every page, its own drives, and is opened and closed by itself', async ({
    page,
  }) => {
    test.slow();
    const settings = (base: string, data: object) =>
      page.request.fetch(`${base}/api/settings`, { method: 'PATCH', data, headers: { 'x-arkiv': '1' } });
    await settings(own.base, { archiveName: 'Weddings', welcomed: true });
    const drive = path.join(home, 'second disk');
    await page.request.post(`${own.base}/api/volumes`, {
      ...{ data: { root: drive, name: 'Blue', role: 'working' }, headers: { 'x-arkiv': '1' } },
    });
    await page.goto(`${own.base}/studio`);
    await expect(page).toHaveTitle('Studio · Weddings');
    await expect(page.getByRole('link', { name: 'Weddings, to the Desk' })).toBeVisible();
    await page.getByRole('link', { name: 'Archives on this computer' }).click();
    const archive = (name: string) => page.getByRole('listitem', { name, exact: true });
    await expect(archive('Weddings')).toContainText('open in this window');
    await page.getByRole('button', { name: 'Make or open another archive …' }).click();
    await page.getByLabel('Name').fill('Press');
    await page.keyboard.press('Tab');
    await page.getByLabel('Full path of its folder').fill(path.join(home, 'press'));
    await page.keyboard.press('Enter');
    // A new archive begins with its first page, at an address of its own.
    await expect(page).toHaveURL(/\/welcome$/);
    const other = new URL(page.url()).origin;
    expect(other).not.toBe(own.base);
    try {
      await settings(other, { welcomed: true });
      await page.goto(`${other}/studio#drives`);
      await expect(page).toHaveTitle('Studio · Press');
      // The other one's drive is refused, with the ways out; a folder of its own on it is one press.
      const drives = page.locator('#drives');
      await drives.getByRole('button', { name: 'Add a drive or folder …' }).click();
      await drives.getByLabel('Full path of a folder').fill(drive);
      await drives.getByRole('textbox', { name: 'Name' }).fill('Ours');
      await drives.getByRole('button', { name: 'Add', exact: true }).click();
      await expect(drives.getByRole('alert')).toContainText('is a drive of the archive “Weddings”');
      await drives.getByRole('button', { name: 'Use a folder “Press” on it' }).click();
      await expect(drives.getByRole('group', { name: 'Ours' })).toBeVisible();
      expect(existsSync(path.join(drive, 'Press/.arkiv-volume.json'))).toBe(true);
      await page.goto(`${other}/archives`);
      await accessible(page);
      await expect(archive('Weddings')).toContainText('open at 127.0.0.1');
      await archive('Press').getByRole('button', { name: 'Close it …' }).click();
      await page.keyboard.press('Enter');
      await expect(archive('Press')).toContainText('closed just now');
      await archive('Weddings').getByRole('link', { name: 'Go to it' }).click();
      await expect(page).toHaveTitle('Desk · Weddings');
      await page.goto(`${own.base}/archives`);
      await expect(archive('Press')).toContainText('closed; opened last on');
      // It is opened again where it answered before.
      await archive('Press').getByRole('button', { name: 'Open' }).click();
      await expect(page).toHaveTitle('Desk · Press');
      expect(new URL(page.url()).origin).toBe(other);
    } finally {
      await page.request.post(`${other}/api/archives/close`, { headers: { 'x-arkiv': '1' } });
    }
    await expect
      .poll(() =>
        page.request.get(`${other}/api/health`).then(
          () => 'there',
          () => 'gone',
        ),
      )
      .toBe('gone');
  });

  test('outlives its computer: on a new one it is made anew from its drive', async ({ page }) => {
    const { shootId, ask } = await takeInBowls(page);
    await ask('PATCH', '/settings', { studio: 'Hollow Lane Pottery' });
    await page.goto(`${own.base}/shoots/${shootId}/cull`);
    await expect(page.getByText('frame 1 of 2')).toBeVisible();
    await page.keyboard.press('d');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('3');
    const decided = async () => {
      const { columns } = await ask('GET', `/shoots/${shootId}/frames`);
      return [columns.id, columns.verdict, columns.stars, columns.picture];
    };
    await expect.poll(async () => JSON.stringify(await decided())).toContain('"undecided"],[0,3]');
    const before = await decided();
    const { port } = new URL(own.base);
    own.server.kill();
    await new Promise((resolve) => own.server.once('exit', resolve));
    // All that the computer kept for itself is gone.
    rmSync(path.join(home, '.local'), { recursive: true });
    own = await startOwn(home, port);
    await page.goto(own.base);
    await expect(page.getByRole('heading', { name: 'Welcome to Arkiv' })).toBeVisible();
    await page.getByRole('button', { name: 'Add a drive of that archive …' }).click();
    // The field has the focus as soon as it is there.
    await expect(page.getByLabel('Full path of an existing folder')).toBeFocused();
    await page.keyboard.type(path.join(home, 'Pictures'));
    await page.getByLabel('Name').fill('Found in a drawer');
    await page.keyboard.press('Enter');
    await expect(page.getByText('1 shoot on “Found in a drawer”')).toBeVisible();
    await expect(page.getByRole('heading', { name: 'Hollow Lane Pottery' })).toBeVisible();
    await accessible(page);
    await page.getByRole('button', { name: 'Make this archive anew here' }).press('Enter');
    await expect(page.getByRole('heading', { name: 'Desk', level: 1 })).toBeVisible();
    await page.getByRole('link', { name: 'Cull 1 left: Bowls' }).click();
    await expect(page.getByText(/frame \d of 2/)).toBeVisible();
    // Frames are there before what was decided of them is.
    await expect.poll(decided).toEqual(before);
    // The drive has its own name again, and says whose it is.
    await page.getByRole('link', { name: 'Desk', exact: true }).click();
    await expect(page.getByText('Pictures', { exact: true })).toBeVisible();
    await expect(page.getByText('Found in a drawer')).toHaveCount(0);
  });
});

test('an archive that other machines can reach asks for the studio password, once', async ({ browser }) => {
  const home = mkdtempSync(path.join(os.tmpdir(), 'arkiv-home-'));
  const passwordFile = path.join(home, 'password');
  writeFileSync(passwordFile, 'five quiet lanterns\n');
  const own = await startOwn(home, '0', { ARKIV_HOST: '0.0.0.0', ARKIV_PASSWORD_FILE: passwordFile });
  // The server made its certificate itself, as for an owner who names none.
  const context = await browser.newContext({ ignoreHTTPSErrors: true });
  try {
    const page = await context.newPage();
    const base = `https://127.0.0.1:${new URL(own.base).port}`;
    await page.goto(`${base}/studio`);
    await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
    await accessible(page);
    // The field has the focus.
    await page.keyboard.type('no lantern at all');
    await page.keyboard.press('Enter');
    await expect(page.getByText('This is not the studio password.')).toBeVisible();
    await page.keyboard.type('five quiet lanterns');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { name: 'Studio', level: 1 })).toBeVisible();
    await expect(page.getByText('Other machines can, by HTTPS and with the studio password.')).toBeVisible();
    await page.reload();
    await expect(page.getByRole('heading', { name: 'Studio', level: 1 })).toBeVisible();
    await page.getByRole('button', { name: 'Sign out' }).click();
    await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  } finally {
    await context.close();
    own.server.kill();
    await new Promise((resolve) => own.server.once('exit', resolve));
    rmSync(home, { recursive: true, force: true });
  }
});

async function kept(page: Page, label: string, text: string): Promise<void> {
  await page.getByLabel(label, { exact: true }).fill(text);
  await page.keyboard.press('Tab');
}

test('Studio names labels, refuses two of one text, and saves a plan and a template with stars', async ({
  page,
}) => {
  const settings = await (await page.request.get('/api/settings')).json();
  const back = { labels: settings.labels, labelWords: settings.labelWords, rules: settings.rules };
  try {
    await page.goto('/studio#labels');
    await kept(page, 'Name of label P', 'Press');
    await kept(page, 'What label P means', 'for the press');
    await page.getByLabel('Text of label P in sidecars').fill('Amber');
    await expect(page.getByText('Label A has this text: each needs one of its own.')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByLabel('Text of label P in sidecars')).toHaveValue('Plum');
    await page.getByLabel('A keeper is a frame that is').selectOption({ label: 'label P Press' });
    await accessible(page);
    await page.getByRole('button', { name: 'New template …' }).click();
    await page.getByLabel('Headline').fill('{shoot}');
    await page.getByRole('dialog').getByLabel('Stars').selectOption('3');
    await page.getByLabel('Name of the template').fill('Weddings');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(page.getByRole('button', { name: 'Open …: Weddings' })).toBeVisible();
    await expect(page.getByText('· 3★', { exact: false })).toBeVisible();
    await page.getByRole('button', { name: 'New plan …' }).click();
    await page.getByLabel('Name of the plan').fill('By client');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(page.getByRole('button', { name: 'Open …: By client' })).toBeVisible();
    await page.reload();
    await expect(page.getByLabel('Name of label P', { exact: true })).toHaveValue('Press');
    const now = await (await page.request.get('/api/settings')).json();
    expect(now.rules.keeper).toEqual({ field: 'label', is: 'P' });
    expect(now.templates.at(-1)).toMatchObject({ name: 'Weddings', stars: 3 });
    await page.getByRole('button', { name: 'Remove: Weddings' }).click();
    await page.getByRole('button', { name: 'Remove: By client' }).click();
    await expect(page.getByRole('button', { name: 'Open …: By client' })).toHaveCount(0);
  } finally {
    await page.request.patch('/api/settings', { data: back, headers: { 'x-arkiv': '1' } });
  }
});
