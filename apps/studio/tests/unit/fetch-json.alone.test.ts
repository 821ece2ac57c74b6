import { z } from 'zod';
import { fetchAs, fetchJson, refusal, RequestError } from '@/data/fetch-json';

const answer = (body: unknown, status = 200) => {
  globalThis.fetch = (async () => Response.json(body, { status })) as typeof fetch;
};
const named = z.object({ name: z.string() });

test('an answer of the shape that both ends know comes through; another says that page and server differ, and where', async () => {
  answer({ name: 'rounds', more: 1 });
  expect(await fetchAs(named, '/x')).toEqual({ name: 'rounds' });
  answer({ name: 7 });
  await expect(fetchAs(named, '/x')).rejects.toThrow(/answered otherwise than this page knows \(name: /);
});

test('a refusal has the server’s own sentence, with the line where it has one, and what else it said', async () => {
  answer({ code: 'revision', message: 'Saved elsewhere.', clip: { id: 'a' } }, 409);
  const error = await fetchJson('/x').catch((e: unknown) => e);
  expect(error).toBeInstanceOf(RequestError);
  expect(error).toMatchObject({ message: 'Saved elsewhere.', status: 409, body: { clip: { id: 'a' } } });
  expect(refusal(422, { message: 'No joints.', line: 12 }).message).toBe('line 12: No joints.');
  expect(refusal(502, '<html>').message).toBe('The server answered 502.');
});

test('no connection is a sentence too', async () => {
  globalThis.fetch = (() => Promise.reject(new TypeError('failed'))) as typeof fetch;
  await expect(fetchJson('/x')).rejects.toMatchObject({ status: 0, message: 'The server cannot be reached.' });
});
