import { accessible } from './accessible';
import { expect, test, type Page } from './test';

// Messages to clients, by the simulated mail server.
test.describe('a message', () => {
  let shootId: string;
  test.beforeAll(async ({ request }) => {
    const shoots = (await (await request.get('/api/shoots')).json()) as { id: string; frames: number }[];
    shootId = shoots.find(({ frames }) => frames >= 20)!.id;
    const headers = { 'x-arkiv': '1' };
    const made = await request.post(`/api/shoots/${shootId}/galleries`, {
      headers,
      data: {
        ...{ title: 'To be written about', most: 2, withCode: true },
        rights: { choose: true, remark: true, download: false },
      },
    });
    const { jobId } = (await made.json()) as { jobId: string };
    await expect
      .poll(
        async () =>
          ((await (await request.get(`/api/jobs/${jobId}`)).json()) as { job: { state: string } }).job.state,
      )
      .toBe('done');
  });
  test.afterAll(async ({ request }) => {
    await request.put('/api/stand-ins/servers/smtp', {
      headers: { 'x-arkiv': '1' },
      data: { refuses: false },
    });
  });

  const card = (page: Page) => page.getByRole('group', { name: 'Gallery “To be written about”' });
  const mailbox = async (page: Page) =>
    (await (await page.request.get('/api/stand-ins/mailbox')).json()) as {
      to: string;
      subject: string;
      text: string;
      files: string[];
    }[];

  test('needs a mail server, which Studio names and tries', async ({ page }) => {
    await page.goto(`/shoots/${shootId}/deliver`);
    await card(page).getByRole('button', { name: 'Write to them …' }).click();
    await page.keyboard.type('wilma@client.example');
    await expect(page.getByText(/^No mail server is named yet/)).toBeVisible();
    await expect(page.getByRole('button', { name: 'Send 1 message' })).toBeDisabled();
    await page.getByRole('link', { name: 'name one in Studio' }).click();
    const { servers } = (await (await page.request.get('/api/stand-ins')).json()) as {
      servers: { id: string; port: number; user: string; password: string }[];
    };
    const { port, user, password } = servers.find(({ id }) => id === 'smtp')!;
    const form = page.getByRole('form', { name: 'Mail server' });
    await form.getByLabel('Mail server (SMTP)').fill('127.0.0.1');
    await form.getByLabel('Encrypted').selectOption('none');
    await form.getByLabel('Port').fill(String(port));
    await form.getByLabel(/^Name there/).fill(user);
    await form.getByLabel('Password').fill('wrong');
    await form.getByLabel('Messages come from').fill('studio@ockham.example');
    await form.getByRole('button', { name: 'Keep it' }).click();
    await form.getByRole('button', { name: 'Try it, without a message' }).click();
    await expect(page.getByText(/lets nobody in with this name and password/)).toBeVisible();
    await form.getByLabel('Password').fill(password);
    await form.getByRole('button', { name: 'Keep it' }).click();
    await form.getByRole('button', { name: 'Try it, without a message' }).press('Enter');
    await expect(form.getByText('It lets us in.')).toBeVisible();
    // It was disabled while it was tried; the keys are where they were.
    await expect(form.getByRole('button', { name: 'Try it, without a message' })).toBeFocused();
    expect(await mailbox(page)).toEqual([]);
    // What it says is the studio's own; what cannot be filled is not kept.
    await page.getByRole('button', { name: 'Change: Invitation to a gallery' }).click();
    const invite = page.getByRole('group', { name: 'Invitation to a gallery' });
    await invite.getByLabel('Subject').fill('Look: {titel}');
    await expect(invite.getByText(/There is no field {titel}/)).toBeVisible();
    await expect(invite.getByRole('button', { name: 'Keep it' })).toBeDisabled();
    await invite.getByLabel('Subject').fill('Look: {title}');
    await accessible(page);
    await invite.getByRole('button', { name: 'Keep it' }).click();
    await expect(invite.getByText('Look: {title}')).toBeVisible();
  });

  test('is read before it goes, goes at a press, and says that it went', async ({ page }) => {
    await page.goto(`/shoots/${shootId}/deliver`);
    const code = (
      await card(page)
        .getByText(/^pass code/)
        .innerText()
    ).replace('pass code ', '');
    await card(page).getByRole('button', { name: 'Write to them …' }).click();
    const dialog = page.getByRole('dialog', { name: 'Write to the client' });
    await page.keyboard.type('wilma@client.example');
    const preview = dialog.getByRole('group', { name: /will read it$/ });
    await expect(preview.getByText('Look: To be written about')).toBeVisible();
    await expect(preview).toContainText(`Pass code: ${code}`);
    await accessible(page);
    expect(await mailbox(page)).toEqual([]);
    await dialog.getByRole('button', { name: 'Send 1 message' }).click();
    const list = card(page).getByRole('list', { name: 'What they were written' });
    await expect(list.getByText(/^wilma@client\.example: “Look: To be written about” · sent /)).toBeVisible();
    const [mail] = await mailbox(page);
    expect(mail).toMatchObject({ to: 'wilma@client.example', subject: 'Look: To be written about' });
    expect(mail!.text).toContain(code);
    await accessible(page);
    // A server that turns it away is quoted, and nothing goes by itself afterwards.
    const refuse = (refuses: boolean) =>
      page.request.put('/api/stand-ins/servers/smtp', { headers: { 'x-arkiv': '1' }, data: { refuses } });
    await refuse(true);
    await card(page).getByRole('button', { name: 'Write to them …' }).click();
    await expect(dialog.getByLabel('Address')).toHaveValue('wilma@client.example');
    await dialog.getByRole('button', { name: 'Send 1 message' }).click();
    await expect(list.getByText(/ · not sent /)).toBeVisible();
    await refuse(false);
    await page.reload();
    await expect(list.getByText(/ · not sent /)).toBeVisible();
    expect(await mailbox(page)).toHaveLength(1);
  });

  test('takes a picture along from Cull, whose size it says', async ({ page }) => {
    await page.goto(`/shoots/${shootId}/cull?view=single`);
    await expect(page.getByText(/^frame \d+ of \d+$/).first()).toBeVisible();
    await page.keyboard.press('Alt+y');
    const dialog = page.getByRole('dialog', { name: 'Send 1 picture beside a message' });
    await expect(dialog.getByText(/\.jpg, [\d.]+ kB$/)).toBeVisible();
    await dialog.getByLabel('Address').fill('desk@paper.example');
    await dialog.getByLabel('Name, for the greeting').fill('Otto');
    await accessible(page);
    await dialog.getByRole('button', { name: 'Send it' }).click();
    await expect(dialog).toBeHidden();
    const sent = page.getByRole('list', { name: 'Pictures that were sent' });
    await expect(sent.getByText(/^desk@paper\.example: .* · sent /)).toBeVisible();
    const [mail] = await mailbox(page);
    expect(mail!.text).toContain('Hello Otto,');
    expect(mail!.files).toHaveLength(1);
    await expect(page.getByText('Beside a message to desk@paper.example')).toBeVisible();
  });
});
