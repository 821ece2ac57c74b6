import { problem, respond } from '@/server/respond';
import { readSuit } from '@/server/suit';

/** Poses a second in the live preview; the recording has all sixty. */
const PREVIEW = 30;

/** Desks that may listen to one suit at a time. */
const MOST_LISTENERS = 8;
const listeners = new Map<string, number>();

/** The suit live, as server-sent events: `pose` (base64 of float32: root place, rotations) and, five times a second, `status`. */
export async function GET(request: Request, { params }: { params: Promise<{ suit: string }> }): Promise<Response> {
  return respond(request, async () => {
    const { suit } = await params;
    readSuit(suit);
    if ((listeners.get(suit) ?? 0) >= MOST_LISTENERS) {
      return problem(503, { code: 'listeners', message: `${MOST_LISTENERS} desks listen to this suit already: close one of them first.` });
    }
    listeners.set(suit, (listeners.get(suit) ?? 0) + 1);
    let isOpen = true;
    const leave = () => {
      clearInterval(timer);
      if (isOpen) listeners.set(suit, (listeners.get(suit) ?? 1) - 1);
      isOpen = false;
      if (listeners.get(suit) === 0) listeners.delete(suit);
    };
    const encode = new TextEncoder();
    let timer: NodeJS.Timeout | undefined;
    const stream = new ReadableStream<Uint8Array>({
      start(controller) {
        let count = 0;
        const send = (event: string, data: string) => controller.enqueue(encode.encode(`event: ${event}\ndata: ${data}\n\n`));
        const tick = () => {
          try {
            // Somebody who does not read is not sent more.
            if ((controller.desiredSize ?? 1) < -64) return;
            const { status, pose } = readSuit(suit);
            send('pose', Buffer.from(pose.buffer).toString('base64'));
            if (count++ % 6 === 0) send('status', JSON.stringify(status));
          } catch {
            leave();
            controller.close();
          }
        };
        timer = setInterval(tick, 1000 / PREVIEW);
        request.signal.addEventListener('abort', leave);
      },
      cancel: leave,
    });
    return new Response(stream, {
      headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' },
    });
  });
}
