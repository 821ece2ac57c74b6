import { request } from 'node:http';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { click, openPage, shows } from './browser';
import { temporaryFolder } from './server';
import { session } from './session';

const tests = session({ env: { LANTERN_PASSPHRASE: 'gull and rope', LANTERN_HOSTS: 'quay.local' } });

/** Asks the server under a name, as a page of that name that leads here would. */
const ask = (host: string, path: string) =>
  new Promise<{ status: number; body: string; location: string | undefined }>((resolve, reject) => {
    const { hostname, port } = new URL(tests.application.url);
    const asked = request({ hostname, port, path, headers: { host } }, (answer) => {
      let body = '';
      answer.on('data', (part: Buffer) => (body += part.toString()));
      answer.on('end', () => resolve({ status: answer.statusCode ?? 0, body, location: answer.headers.location }));
    });
    asked.on('error', reject);
    asked.end();
  });

test('under a name that is not ours nothing is told, no page and no answer; a name that was given is served', async () => {
  for (const path of ['/', '/gullmouth/takes', '/enter', '/api/projects/gullmouth']) {
    const { status, body } = await ask('evil.example', path);
    expect([path, status]).toEqual([path, 421]);
    expect(body).toContain('is not served under this name');
  }
  expect((await ask('quay.local', '/enter')).status).toBe(200);
  // Whoever has to say the passphrase first stays at the name that was asked.
  expect(await ask('quay.local', '/gullmouth/takes')).toMatchObject({
    status: 307,
    location: expect.stringMatching(/^(http:\/\/quay\.local)?\/enter\?to=%2Fgullmouth%2Ftakes$/),
  });
});

test('without the passphrase neither page nor answer; with it the takes; a file without bones is refused with a sentence', async () => {
  expect((await ask('127.0.0.1', '/api/projects/gullmouth')).status).toBe(401);
  const { page, errors } = await openPage(tests.browser);
  await page.goto(`${tests.application.url}/gullmouth/takes?sent=by-a-colleague`);
  expect(page.url()).toMatch(/\/enter\?to=/);
  const type = async (text: string) => {
    await page.locator('input[type=password]').fill(text);
    await click(page, 'button', 'Come in');
  };
  await type('seagull');
  await shows(page, 'That is not the passphrase.');
  await type('gull and rope');
  await shows(page, 'wick-rounds');
  // Whoever followed an address that was sent is there now.
  expect(page.url()).toBe(`${tests.application.url}/gullmouth/takes?sent=by-a-colleague`);
  const cookies = await tests.browser.cookies();
  expect(cookies.find(({ name }) => name === 'lantern_session')).toMatchObject({ httpOnly: true, sameSite: 'Strict' });
  const file = join(temporaryFolder(), 'boneless.bvh');
  const joint = (name: string, inner: string) => `${name}\n{\nOFFSET 0 0 0\n${inner}}\n`;
  writeFileSync(
    file,
    `HIERARCHY\n${joint('ROOT Hips', `CHANNELS 3 Zrotation Xrotation Yrotation\n${joint('JOINT Spine', `CHANNELS 3 Zrotation Xrotation Yrotation\n${joint('End Site', '')}`)}`)}MOTION\nFrames: 1\nFrame Time: 0.02\n0 0 0 0 0 0\n`,
  );
  await (await page.$('input[type=file]'))?.uploadFile(file);
  await shows(page, 'All joints of the skeleton lie in one place');
  await shows(page, 'wick-rounds');
  // The refusals above are errors of the network to the browser.
  expect(errors.filter((error) => !/status of 401/.test(error))).toEqual([]);
  await page.close();
});
