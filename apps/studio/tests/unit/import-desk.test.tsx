/** @jest-environment jsdom */
import { act, cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ImportDesk, useImportDesk } from '@/shell/ImportDesk';
import { place, plainTake, serve } from './place';

const mockPush = jest.fn<void, [string]>();
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: mockPush }) }));

/** A request that is on its way until the test answers it. */
class Sent {
  static all: Sent[] = [];
  static get names() {
    return Sent.all.map(({ name }) => name);
  }
  name = '';
  arrival = '';
  file: File | null = null;
  status = 0;
  response: unknown = null;
  responseType = '';
  isAborted = false;
  upload: { onprogress: ((event: object) => void) | null; onload: (() => void) | null } = { onprogress: null, onload: null };
  onload: (() => void) | null = null;
  onerror: (() => void) | null = null;
  onabort: (() => void) | null = null;
  open(_: string, url: string): void {
    const asked = new URLSearchParams(url.split('?')[1]);
    this.name = asked.get('file') ?? '';
    this.arrival = asked.get('arrival') ?? '';
  }
  send(file: File): void {
    this.file = file;
    Sent.all.push(this);
  }
  abort(): void {
    this.isAborted = true;
    this.onabort?.();
  }
  answer(status: number, response: unknown): Promise<void> {
    this.status = status;
    this.response = response;
    return act(async () => this.onload?.());
  }
}
const arrived = (change: object) => ({ takes: [], duplicates: [], skeleton: null, ...change });
const sent = async (name: string) => {
  await waitFor(() => expect(Sent.names).toContain(name));
  return Sent.all.find((request) => request.name === name) as Sent;
};

beforeEach(() => {
  Sent.all = [];
  mockPush.mockClear();
  Object.assign(globalThis, { XMLHttpRequest: Sent });
  let next = 0;
  crypto.randomUUID = () => `0-0-0-0-${next++}`;
});
afterEach(cleanup);

function open() {
  const here = place();
  const dropped = jest.fn();
  function Row() {
    const { onTake } = useImportDesk();
    onTake.current = dropped;
    return <div data-take="old">the old take</div>;
  }
  render(
    <ImportDesk>
      <p>the window</p>
      <Row />
    </ImportDesk>,
    { wrapper: here.wrapper },
  );
  return { ...here, dropped, user: userEvent.setup() };
}
const file = (name: string, text = 'x') => new File([text], name);
const drop = (target: Element, ...files: File[]) =>
  act(async () => {
    fireEvent.drop(target, {
      dataTransfer: { files, items: files.map((own) => ({ kind: 'file', getAsFile: () => own })), types: ['Files'] },
    });
  });
const dropHere = (...files: File[]) => drop(screen.getByText('the window'), ...files);

test('a file that is dropped is sent, is in the project when it has been read, and is opened', async () => {
  const { known } = open();
  await dropHere(file('stroll.bvh'));
  const request = await sent('stroll.bvh');
  expect(screen.getByRole('status').textContent).toBe('Bringing takes in: 0 of 1');
  act(() => request.upload.onprogress?.({ lengthComputable: true, loaded: 40, total: 100 }));
  await waitFor(() => expect(screen.getByRole('progressbar', { name: 'stroll.bvh progress' }).getAttribute('aria-valuenow')).toBe('40'));
  act(() => request.upload.onload?.());
  expect(screen.getByText('being read')).toBeTruthy();
  await request.answer(201, arrived({ takes: [plainTake('stroll')] }));
  expect(known().takes.map(({ id }) => id)).toEqual(['stroll']);
  expect(screen.getByText('1 of 1 file came in')).toBeTruthy();
  expect(mockPush).toHaveBeenCalledWith('/gullmouth/takes/stroll');
});

test('how much of a file has been read is asked for while it is read, and it can be stopped then too', async () => {
  const asked = serve(() => ({ share: 0.6 }));
  const { user } = open();
  await dropHere(file('long.bvh'));
  const request = await sent('long.bvh');
  act(() => request.upload.onload?.());
  const bar = () => screen.getByRole('progressbar', { name: 'long.bvh progress' });
  expect(bar().getAttribute('aria-valuenow')).toBeNull();
  await waitFor(() => expect(bar().getAttribute('aria-valuenow')).toBe('60'), { timeout: 5000 });
  expect(asked[0].url).toBe(`/api/arrivals/${request.arrival}`);
  await user.click(screen.getByRole('button', { name: 'stop' }));
  expect(request.isAborted).toBe(true);
  await waitFor(() => expect(screen.getByText('stopped')).toBeTruthy());
});

test('two are on their way at a time, and one that is bad stops no other', async () => {
  const { known } = open();
  await dropHere(...['a.bvh', 'b.bvh', 'c.bvh'].map((name) => file(name)));
  await sent('b.bvh');
  expect(Sent.names).toEqual(['a.bvh', 'b.bvh']);
  await Sent.all[0].answer(422, { code: 'bvh', message: 'A channel is missing.', line: 12 });
  const third = await sent('c.bvh');
  await Sent.all[1].answer(201, arrived({ takes: [plainTake('b')] }));
  await third.answer(201, arrived({ takes: [plainTake('c')] }));
  expect(screen.getByRole('alert').textContent).toContain('line 12: A channel is missing.');
  expect(screen.getByText('2 of 3 files came in')).toBeTruthy();
  expect(known().takes).toHaveLength(2);
});

test('skeletons go before the motions that want them, wherever they are in the pile', async () => {
  open();
  await dropHere(file('pier_01.amc'), file('pier.asf'), file('pier_02.amc'));
  const skeleton = await sent('pier.asf');
  expect(Sent.names).toEqual(['pier.asf']);
  await skeleton.answer(201, arrived({ skeleton: 'pier' }));
  await sent('pier_02.amc');
  expect(Sent.names).toEqual(['pier.asf', 'pier_01.amc', 'pier_02.amc']);
  expect(screen.getByText('a skeleton, kept for its motions')).toBeTruthy();
});

test('buffers beside a glTF travel inside it, and are no files of their own', async () => {
  open();
  const json = {
    asset: { version: '2.0' },
    buffers: [
      { uri: 'deep/way%201.bin', byteLength: 3 },
      { uri: 'gone.bin', byteLength: 9 },
    ],
  };
  // jsdom's files have no text of their own.
  const gltf = Object.assign(file('way.gltf'), { text: async () => JSON.stringify(json) });
  await dropHere(gltf, file('way 1.bin', 'abc'));
  const request = await sent('way.gltf');
  const text = await new Promise<string>((resolve) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.readAsText(request.file as File);
  });
  expect(JSON.parse(text).buffers.map(({ uri }: { uri: string }) => uri)).toEqual([
    'data:application/octet-stream;base64,YWJj',
    'gone.bin',
  ]);
  expect(Sent.names).toEqual(['way.gltf']);
});

test('what is stopped is not sent, or no longer', async () => {
  const { user } = open();
  await dropHere(file('a.bvh'), file('b.bvh'), file('c.bvh'));
  await sent('b.bvh');
  await user.click(screen.getByRole('button', { name: 'stop all' }));
  expect(Sent.all.map(({ isAborted }) => isAborted)).toEqual([true, true]);
  await waitFor(() => expect(screen.getAllByText('stopped')).toHaveLength(2));
  expect(Sent.names).toEqual(['a.bvh', 'b.bvh']);
});

test('a server that is away says so for each file', async () => {
  open();
  await dropHere(file('a.bvh'));
  const request = await sent('a.bvh');
  await act(async () => request.onerror?.());
  expect(screen.getByRole('alert').textContent).toContain('The server cannot be reached.');
});

test('what came in before says under which name it is here', async () => {
  const { user } = open();
  await dropHere(file('again.bvh'));
  await (await sent('again.bvh')).answer(201, arrived({ duplicates: ['stroll'] }));
  expect(screen.getByText('here already as “stroll”')).toBeTruthy();
  expect(mockPush).not.toHaveBeenCalled();
  await user.click(screen.getByRole('button', { name: 'Close' }));
  expect(screen.queryByRole('region', { name: 'Arriving takes' })).toBeNull();
});

test('files that are dropped on a take of the list redeliver it', async () => {
  const { dropped } = open();
  const better = file('better.bvh');
  await drop(screen.getByText('the old take'), better);
  await waitFor(() => expect(dropped).toHaveBeenCalled());
  expect(dropped.mock.lastCall?.[0]).toBe('old');
  expect((dropped.mock.lastCall?.[1] as File[]).map(({ name }) => name)).toEqual(['better.bvh']);
  expect(Sent.all).toEqual([]);
});
