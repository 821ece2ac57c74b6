import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { withSpooled, type Spooled } from '@/server/spool';

const bodies = () => readdirSync(tmpdir()).filter((name) => name.startsWith('old-lantern-'));

/** A request whose body comes as a test wants it. */
const arriving = (start: (controller: ReadableStreamDefaultController<Uint8Array>) => void) =>
  new Request('http://localhost/', { method: 'POST', body: new ReadableStream<Uint8Array>({ start }), duplex: 'half' } as RequestInit);

const whole = (size: number) =>
  arriving((controller) => {
    for (let at = 0; at < size; at += 1000) controller.enqueue(new Uint8Array(Math.min(1000, size - at)).fill(at % 251));
    controller.close();
  });

const about = async ({ size, hash, path }: Spooled) => {
  const read = readFileSync(path);
  return Response.json({ size, onDisk: read.length, isSame: createHash('sha256').update(read).digest('hex') === hash });
};

test('a body is on disk while it is used, whole, and gone afterwards', async () => {
  const before = bodies().length;
  const answer = await withSpooled(whole(12_345), 20_000, async (file) => {
    expect(bodies().length).toBe(before + 1);
    return about(file);
  });
  expect(await answer.json()).toEqual({ size: 12_345, onDisk: 12_345, isSame: true });
  expect(bodies().length).toBe(before);
});

test('one that is too large, that is silent, or whose use fails leaves nothing behind', async () => {
  const before = bodies().length;
  await expect(withSpooled(whole(30_000), 20_000, about)).rejects.toMatchObject({ code: 'too-large' });
  const silent = arriving((controller) => controller.enqueue(new Uint8Array(10)));
  await expect(withSpooled(silent, 20_000, about, 30)).rejects.toMatchObject({ code: 'slow' });
  await expect(withSpooled(whole(10), 20, () => Promise.reject(new Error('bad')))).rejects.toThrow('bad');
  expect(bodies().length).toBe(before);
});

test('while sixteen are on their way more are asked to come again, and taken when these have ended', async () => {
  const ends: (() => void)[] = [];
  const slow = Array.from({ length: 16 }, () =>
    withSpooled(
      arriving((controller) => ends.push(() => controller.close())),
      100,
      about,
    ),
  );
  await new Promise((resolve) => setTimeout(resolve, 50));
  const refused = await withSpooled(whole(10), 100, about);
  expect([refused.status, (await refused.json()).code]).toEqual([503, 'busy']);
  for (const end of ends) end();
  expect((await Promise.all(slow)).map(({ status }) => status)).toEqual(Array(16).fill(200));
  expect((await withSpooled(whole(10), 100, about)).status).toBe(200);
});

test('two are used at a time, the others wait', async () => {
  let [now, most] = [0, 0];
  const use = async () => {
    most = Math.max(most, ++now);
    await new Promise((resolve) => setTimeout(resolve, 10));
    now--;
    return Response.json({});
  };
  await Promise.all(Array.from({ length: 7 }, () => withSpooled(whole(10), 100, use)));
  expect(most).toBe(2);
});
