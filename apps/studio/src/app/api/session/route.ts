import { z } from 'zod';
import { guardOf, isPassphrase, newSession, SESSION_COOKIE, Tries } from '@/server/guard';
import { problem, readJson, respond } from '@/server/respond';

const tries = new Tries();
const input = z.object({ passphrase: z.string().max(1000) });

/** Lets somebody in who knows the passphrase. Outside of every session, and limited: see `Tries`. */
export async function POST(request: Request): Promise<Response> {
  return respond(
    request,
    async () => {
      const wait = tries.wait();
      if (wait > 0) {
        return problem(429, { code: 'tries', message: `That was tried too often. Wait ${wait} seconds.` }, { 'retry-after': String(wait) });
      }
      const { passphrase } = await readJson(request, input, 4000);
      if (!isPassphrase(passphrase, guardOf())) {
        tries.failed();
        return problem(401, { code: 'passphrase', message: 'That is not the passphrase.' });
      }
      const cookie = `${SESSION_COOKIE}=${newSession()}; Path=/; HttpOnly; SameSite=Strict; Max-Age=43200`;
      return Response.json({ outcome: 'in' }, { headers: { 'set-cookie': cookie } });
    },
    { open: true },
  );
}
