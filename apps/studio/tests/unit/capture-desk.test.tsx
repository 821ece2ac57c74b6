/** @jest-environment jsdom */
import { InputError } from '@lantern/motion';
import { act, cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { goOn, holdStill } from '@/data/hold';
import { useProjectData } from '@/data/project';
import { CaptureDesk } from '@/places/takes/CaptureDesk';
import { commandSuit, connectSuit, disconnectSuit, readSuit, setSuit, suitSettingsSchema } from '@/server/suit';
import { place, plainTake, projectData, serve, type Asked } from './place';
import { giveRoom } from './room';

jest.mock('@/stage/StageFrame', () => ({
  StageFrame: ({ stage, notice }: { stage: object | null; notice?: object }) => (
    <div data-testid="stage">
      {stage ? 'the performer' : ''}
      {notice as never}
    </div>
  ),
}));
jest.mock('@/worker/core', () => ({ core: () => ({ figure: () => ({ mesh: {}, markers: null }) }) }));
const mockPush = jest.fn<void, [string]>();
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: mockPush }), useSearchParams: () => new URLSearchParams() }));

/** The suit's stream: says how things are whenever it is asked to. */
class Stream {
  static open: Stream[] = [];
  onerror: (() => void) | null = null;
  private readonly heard = new Map<string, (event: { data: string }) => void>();
  constructor(readonly url: string) {
    Stream.open.push(this);
  }
  addEventListener(name: string, run: (event: { data: string }) => void): void {
    this.heard.set(name, run);
  }
  close(): void {
    Stream.open = Stream.open.filter((other) => other !== this);
  }
  say(): void {
    const { status, pose } = readSuit(this.url.split('/')[3]);
    this.heard.get('pose')?.({ data: Buffer.from(pose.buffer).toString('base64') });
    this.heard.get('status')?.({ data: JSON.stringify(status) });
  }
}

let now = 1_000_000_000;
/** Lets time pass for the suit, which then says how things are. */
const pass = (seconds: number) =>
  act(async () => {
    now += seconds * 1000;
    for (const stream of Stream.open) stream.say();
  });

let asked: Asked[] = [];
beforeEach(() => {
  Stream.open = [];
  Object.assign(globalThis, { EventSource: Stream });
  giveRoom(900, 700);
  jest.spyOn(Date, 'now').mockImplementation(() => now);
  mockPush.mockClear();
  // The server's own suit behind its routes.
  asked = serve(({ url, method, body }) => {
    if (url.startsWith('/api/projects')) return projectData({ takes: [plainTake('wick-walk-01')] });
    const id = url.split('/')[3];
    if (!id) return connectSuit(suitSettingsSchema.parse(body));
    if (method === 'DELETE') return { outcome: disconnectSuit(id) ? 'off' : 'was off' };
    try {
      if (body?.action === 'settings') return setSuit(id, suitSettingsSchema.parse(body.settings));
      if (body?.action === 'keep') {
        commandSuit(id, 'discard');
        return plainTake('kept', { name: String(body.name) });
      }
      commandSuit(id, body?.action as 'record');
      return { outcome: 'done' };
    } catch (error) {
      if (error instanceof InputError) return 422;
      throw error;
    }
  });
});
afterEach(() => {
  cleanup();
  jest.restoreAllMocks();
});

function open() {
  const here = place(projectData({ takes: [plainTake('wick-walk-01')] }));
  function Desk() {
    useProjectData();
    return <CaptureDesk />;
  }
  render(<Desk />, { wrapper: here.wrapper });
  return { ...here, user: userEvent.setup() };
}
const button = (name: string | RegExp) => screen.getByRole('button', { name }) as HTMLButtonElement;
const step = (name: string) => screen.getByRole('region', { name });

async function connected() {
  const here = open();
  await here.user.click(button('Connect the suit'));
  await waitFor(() => expect(Stream.open).toHaveLength(1));
  await pass(0);
  return here;
}
async function calibrated() {
  const here = await connected();
  await here.user.click(button('Calibrate'));
  await pass(0.5);
  await pass(5);
  return here;
}

test('before the suit is connected nothing can be recorded, and the desk says what to do', () => {
  open();
  expect(screen.getByText('Connect the suit to see the performer here.')).toBeTruthy();
  expect(button('Calibrate').disabled).toBe(true);
  expect(button('Record').disabled).toBe(true);
});

test('the way to a recording: connect, calibrate with a countdown, record, stop', async () => {
  const { user } = await connected();
  expect(screen.getByText('The suit is connected.')).toBeTruthy();
  expect(await screen.findByText('the performer')).toBeTruthy();
  expect(button('Record').disabled).toBe(true);
  await user.click(button('Calibrate'));
  await pass(0.5);
  expect(screen.getByRole('timer').textContent).toBe('5');
  await pass(2);
  expect(screen.getByRole('timer').textContent).toBe('3');
  await pass(3);
  expect(screen.queryByRole('timer')).toBeNull();
  expect(within(step('Calibrate')).getByText(/ago, heading off by/)).toBeTruthy();
  await user.click(button('Record'));
  await pass(1.5);
  expect(screen.getByRole('status', { name: 'Recording' }).textContent).toBe('0:01.5');
  // What is being done cannot be changed meanwhile.
  expect(screen.getByRole('combobox', { name: /The performer is to/ }).getAttribute('aria-disabled')).toBe('true');
  await user.click(button('Stop'));
  await pass(0.1);
  expect(screen.getByText('Keep it?', { exact: false })).toBeTruthy();
});

test('while another page is on its way the suit is not followed, so that nothing keeps that page waiting', async () => {
  const { user } = await calibrated();
  await user.click(button('Record'));
  await pass(1.5);
  const told = () => screen.getByRole('status', { name: 'Recording' }).textContent;
  act(() => holdStill());
  await pass(2);
  expect(told()).toBe('0:01.5');
  act(() => goOn());
  await pass(0.5);
  expect(told()).toBe('0:04.0');
});

test('a recording is kept under the next free name, and is in the library', async () => {
  const { user, known } = await calibrated();
  await user.click(button('Record'));
  await pass(2);
  await user.click(button('Stop'));
  await pass(0.1);
  const name = screen.getByRole('textbox', { name: 'Name' }) as HTMLInputElement;
  expect(name.value).toBe('wick-walk-02');
  await user.clear(name);
  expect(await screen.findByText('A take needs a name.')).toBeTruthy();
  expect(button('Keep').disabled).toBe(true);
  await user.type(name, 'quay at dawn');
  await user.click(button('Keep'));
  await waitFor(() => expect(known().takes.map((take) => take.name)).toEqual(['wick-walk-01', 'quay at dawn']));
  expect(screen.getByText('“quay at dawn” is in the library.')).toBeTruthy();
  await pass(0.1);
  expect(button('Record').disabled).toBe(false);
});

test('a recording that is discarded is gone, and the next can begin', async () => {
  const { user, known } = await calibrated();
  await user.click(button('Record'));
  await pass(1);
  await user.click(button('Stop'));
  await pass(0.1);
  await user.click(button('Discard'));
  await pass(0.1);
  expect(known().takes).toHaveLength(1);
  expect(button('Record').disabled).toBe(false);
});

test('a performer who has done the script is stopped by itself', async () => {
  const { user } = await calibrated();
  await user.click(button('Record'));
  await pass(120);
  await waitFor(() => expect(asked.some(({ body }) => body?.action === 'stop')).toBe(true));
});

test('settings reach the suit as they are changed; a speed belongs to scripts that go at one', async () => {
  const { user } = await connected();
  const speed = screen.getByRole('textbox', { name: 'at' });
  await user.clear(speed);
  await user.type(speed, '1.7{Enter}');
  await waitFor(() => expect(asked.at(-1)?.body).toMatchObject({ action: 'settings', settings: { speed: 1.7, script: 'walk' } }));
  await user.click(screen.getByRole('combobox', { name: /The performer is to/ }));
  await user.click(screen.getByRole('option', { name: 'four stairs up to the quay' }));
  await waitFor(() => expect(asked.at(-1)?.body).toMatchObject({ settings: { speed: null, script: 'stairs' } }));
  expect(screen.queryByRole('textbox', { name: 'at' })).toBeNull();
});

test('another stature is another body: its leg and arm are said, and the suit is told', async () => {
  const { user } = await connected();
  const stature = screen.getByRole('textbox', { name: 'Stature' });
  await user.clear(stature);
  await user.type(stature, '1.5{Enter}');
  expect(screen.getByText('leg 0.73 m, arm 0.47 m to the wrist')).toBeTruthy();
  await waitFor(() => expect(asked.at(-1)?.body).toMatchObject({ settings: { stature: 1.5 } }));
});

test('gloves are put on with a click, and the suit must be calibrated anew', async () => {
  const { user } = await calibrated();
  await user.click(screen.getByRole('checkbox', { name: 'gloves: record the fingers too' }));
  await waitFor(() => expect(asked.at(-1)?.body).toMatchObject({ settings: { gloves: true } }));
  await pass(0.25);
  expect(screen.getByRole('button', { name: 'Calibrate' })).toBeTruthy();
});

test('sensors that are lost are named while they are', async () => {
  const { user } = await calibrated();
  expect(screen.getByText('All 18 sensors are heard')).toBeTruthy();
  await user.click(screen.getByText('What the suit gets wrong'));
  act(() => screen.getByRole('slider', { name: 'Sensors lost' }).focus());
  await user.keyboard('{End}');
  await waitFor(() => expect(asked.at(-1)?.body).toMatchObject({ settings: { dropped: 20 } }));
  await user.click(button('Record'));
  let seen: string | null = null;
  for (let i = 0; i < 100 && !seen; i++) {
    await pass(0.25);
    seen = screen.queryByText(/not heard$/)?.textContent ?? null;
  }
  const [, name] = /^▲ (\w+)/.exec(seen ?? '') ?? [];
  const sensors = within(screen.getByRole('list', { name: 'Sensors' })).getAllByRole('listitem');
  expect(sensors.map((item) => item.textContent)).toContain(`▲ ${name} lost`);
});

test('a stream that breaks says so and takes up again', async () => {
  await connected();
  act(() => Stream.open[0].onerror?.());
  expect(screen.getByText('▲ The suit is not heard; trying again.')).toBeTruthy();
  await pass(0.1);
  expect(screen.getByText('The suit is connected.')).toBeTruthy();
});

test('what the suit refuses is said, and the desk stays as it is', async () => {
  const { user } = await connected();
  const [{ url }] = Stream.open;
  // Somebody else has switched it off.
  disconnectSuit(url.split('/')[3]);
  await user.click(button('Calibrate'));
  expect(await screen.findByText('refused with 422')).toBeTruthy();
  expect(button('Calibrate').disabled).toBe(false);
});

test('leaving the desk switches the suit off and ends its stream', async () => {
  const { user } = await connected();
  const id = Stream.open[0].url.split('/')[3];
  await user.click(button('Close the capture desk'));
  expect(mockPush).toHaveBeenCalledWith('/gullmouth/takes');
  cleanup();
  expect(Stream.open).toEqual([]);
  await waitFor(() => expect(asked.at(-1)).toMatchObject({ method: 'DELETE', url: `/api/suit/${id}` }));
  expect(() => readSuit(id)).toThrow(InputError);
});
