import { guardOf, hasSession, isLoopback, isPassphrase, isServed, newSession, SESSION_COOKIE, Tries } from '@/server/guard';
import { readJson, respond } from '@/server/respond';
import { isAway, toLog, troubleOf } from '@/server/trouble';
import { z } from 'zod';

test('only names of ours are served, whatever the port; a page of another name that leads here is not', () => {
  const guard = guardOf({});
  for (const host of ['localhost', 'LOCALHOST:4180', '127.0.0.1:99', '[::1]:4180'])
    expect([host, isServed(host, guard)]).toEqual([host, true]);
  for (const host of ['evil.example', 'localhost.evil.example', '127.0.0.1.nip.example', '10.0.0.5', '', null, 'a b', '0.0.0.0'])
    expect([host, isServed(host, guard)]).toEqual([host, false]);
  const named = guardOf({ LANTERN_HOSTS: 'quay.local, Lamp.local', LANTERN_LISTEN: '10.0.0.5' });
  for (const host of ['quay.local:1', 'lamp.local', '10.0.0.5']) expect(isServed(host, named)).toBe(true);
});

test.each([
  ['127.0.0.1', true],
  ['127.9.9.9', true],
  ['::1', true],
  ['localhost', true],
  ['0.0.0.0', false],
  ['127.0.0.1.example', false],
  ['192.168.1.4', false],
])('%s is this machine alone: %s', (address, is) => expect(isLoopback(address)).toBe(is));

const asking = { hosts: new Set(['localhost']), passphrase: 'gull and rope' };

test('a session is signed, ends, and is asked for only where there is a passphrase', () => {
  const cookie = `other=1; ${SESSION_COOKIE}=${newSession()}`;
  expect(hasSession(cookie, asking)).toBe(true);
  expect(hasSession(null, asking)).toBe(false);
  expect(hasSession(null, { passphrase: null })).toBe(true);
  expect(hasSession(cookie, asking, Date.now() + 13 * 3_600_000)).toBe(false);
  const [ends, sign] = newSession().split('.');
  expect(hasSession(`${SESSION_COOKIE}=${Number(ends) + 1}.${sign}`, asking)).toBe(false);
  expect(hasSession(`${SESSION_COOKIE}=${ends}.`, asking)).toBe(false);
});

test('the passphrase is the passphrase, in whatever form its letters are typed; nothing is none', () => {
  expect(isPassphrase('gull and rope', asking)).toBe(true);
  expect(isPassphrase('gull and ropes', asking)).toBe(false);
  expect(isPassphrase('caf\u0065\u0301', { passphrase: 'caf\u00e9' })).toBe(true);
  expect(isPassphrase('', { passphrase: null })).toBe(false);
});

test('after six wrong tries everybody waits until a minute has gone by since the first', () => {
  const tries = new Tries();
  for (let n = 0; n < 6; n++) {
    expect(tries.wait(1000 * n)).toBe(0);
    tries.failed(1000 * n);
  }
  expect(tries.wait(6000)).toBe(54);
  expect(tries.wait(60_000)).toBe(0);
});

const request = (headers: Record<string, string>, body?: string) =>
  new Request('http://localhost/api', { method: body === undefined ? 'GET' : 'POST', headers: { host: 'localhost', ...headers }, body });

test('a route answers no other name, for reading either, and every answer has the headers of safety', async () => {
  const run = jest.fn(async () => Response.json({}));
  const refused = await respond(request({ host: 'evil.example' }), run);
  expect([refused.status, (await refused.json()).code]).toEqual([421, 'host']);
  expect(run).not.toHaveBeenCalled();
  const given = await respond(request({}), run);
  expect(given.headers.get('x-content-type-options')).toBe('nosniff');
  expect(given.headers.get('content-security-policy')).toContain("default-src 'none'");
});

test('JSON is read up to its limit; what is none, or another shape, is refused with a sentence', async () => {
  const schema = z.object({ name: z.string() });
  const said = async (body: string, most?: number) =>
    (
      await respond(request({ origin: 'http://localhost' }, body), async () =>
        Response.json(await readJson(request({}, body), schema, most)),
      )
    ).json();
  expect(await said('{"name":"gull"}')).toEqual({ name: 'gull' });
  expect(await said('{"name":')).toMatchObject({ code: 'json', message: 'The request is not JSON.' });
  expect(await said('{}')).toMatchObject({ code: 'request' });
  expect(await said(JSON.stringify({ name: 'x'.repeat(100) }), 50)).toMatchObject({ code: 'too-large' });
});

const failed = (code: string, message = '') => Object.assign(new Error(message), { code });

test('a database that is away is said to be away; what no column takes is a wrong request; the rest is our fault', () => {
  const wrapped = Object.assign(new Error('Failed query: select 1\nparams: 1'), { query: 'select 1', cause: failed('57P01') });
  expect(troubleOf(wrapped)).toMatchObject({ status: 503, code: 'away' });
  for (const code of ['ECONNREFUSED', '08006', '53300', '57P03']) expect(isAway(failed(code))).toBe(true);
  expect(isAway(new Error('Connection terminated unexpectedly'))).toBe(true);
  // A value that speaks of connections is no connection.
  expect(isAway(new Error('Failed query: insert\nparams: Connection terminated'))).toBe(false);
  expect(troubleOf(Object.assign(new Error('x'), { cause: failed('22003') })).status).toBe(400);
  expect(troubleOf(new Error('x'))).toMatchObject({ status: 500, code: 'ours' });
});

test('what is written down of a failed query has none of its values, however large they are', () => {
  const bytes = 'secret'.repeat(1_000_000);
  const error = Object.assign(new Error(`Failed query: insert into takes\nparams: ${bytes}`), {
    query: 'insert into takes values ($1)',
    params: [bytes],
    cause: failed('ECONNRESET', 'gone'),
  });
  const written = JSON.stringify(toLog(error));
  expect(written).not.toContain('secret');
  expect(written.length).toBeLessThan(2000);
  expect(written).toContain('insert into takes values ($1)');
  expect(written).toContain('ECONNRESET');
});
