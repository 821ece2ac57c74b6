import { InputError, readTake } from '@lantern/motion';
import { GET } from '@/app/api/suit/[suit]/stream/route';
import { commandSuit, connectSuit, disconnectSuit, readSuit, recordingOf, setSuit, suitSettingsSchema } from '@/server/suit';

beforeEach(() => void jest.useFakeTimers({ now: 1_000_000_000 }));
afterEach(() => void jest.useRealTimers());

const settings = (more: object = {}) => suitSettingsSchema.parse({ seconds: 4, jitter: 0, drift: 0, floorCm: 0, ...more });
const pass = (seconds: number) => jest.setSystemTime(Date.now() + seconds * 1000);
const calibrate = (id: string) => {
  commandSuit(id, 'calibrate');
  pass(5);
  readSuit(id);
};
const facing = (take: ReturnType<typeof readTake>) => {
  const p = take.motion.rootPositions;
  const last = p.length - 3;
  return (Math.atan2(p[last] - p[0], p[last + 2] - p[2]) * 180) / Math.PI;
};

test('a recording wants a calibration first, and the last one kept or discarded; each refusal says why', () => {
  const { id } = connectSuit(settings());
  expect(() => commandSuit(id, 'record')).toThrow('not calibrated');
  expect(() => recordingOf(id)).toThrow('nothing recorded');
  calibrate(id);
  expect(readSuit(id).status).toMatchObject({ phase: 'waiting', calibratedSeconds: 0 });
  commandSuit(id, 'record');
  expect(() => commandSuit(id, 'calibrate')).toThrow('recording');
  expect(() => setSuit(id, settings())).toThrow('recording');
  pass(2);
  expect(readSuit(id).status).toMatchObject({ phase: 'recording', isDone: false });
  commandSuit(id, 'stop');
  expect(() => commandSuit(id, 'record')).toThrow('neither kept nor discarded');
  commandSuit(id, 'discard');
  commandSuit(id, 'record');
  pass(60);
  expect(readSuit(id).status.isDone).toBe(true);
  expect(disconnectSuit(id)).toBe(true);
  expect(() => readSuit(id)).toThrow(InputError);
});

test('the countdown is five seconds, and the body is in the neutral pose through it', () => {
  const { id, skeleton } = connectSuit(settings());
  commandSuit(id, 'calibrate');
  const seen = [0, 1.5, 4.9].map((at) => {
    jest.setSystemTime(1_000_000_000 + at * 1000);
    return readSuit(id).status.countdown;
  });
  expect(seen).toEqual([5, 4, 1]);
  const { pose } = readSuit(id);
  const shin = skeleton.joints.findIndex(({ name }) => name === 'LeftShin');
  // Straight knees: no turn against the thigh.
  expect(Math.abs(pose[3 + shin * 4 + 3])).toBeCloseTo(1, 5);
  disconnectSuit(id);
});

test('what is recorded lasts as long as the red mark was on, in centimetres at sixty a second', () => {
  const { id } = connectSuit(settings());
  calibrate(id);
  commandSuit(id, 'record');
  pass(2.5);
  commandSuit(id, 'stop');
  const take = readTake(recordingOf(id), 'kept.bvh');
  expect(take.motion.fps).toBe(60);
  expect(take.motion.frames).toBe(151);
  disconnectSuit(id);
});

test('with gloves the fingers are recorded; who puts them on must be calibrated anew', () => {
  const { id, skeleton } = connectSuit(settings());
  calibrate(id);
  const worn = setSuit(id, settings({ gloves: true })).skeleton;
  expect(worn.joints.length).toBe(skeleton.joints.length + 30);
  expect(() => commandSuit(id, 'record')).toThrow(/calibrated/);
  calibrate(id);
  expect(readSuit(id).pose).toHaveLength(3 + worn.joints.length * 4);
  commandSuit(id, 'record');
  pass(2);
  commandSuit(id, 'stop');
  const { motion } = readTake(recordingOf(id), 'kept.bvh');
  const j = motion.skeleton.joints.findIndex(({ name }) => name === 'RightIndex2');
  const turns = Array.from({ length: motion.frames }, (_, f) => motion.rotations[(f * motion.skeleton.joints.length + j) * 4 + 3]);
  expect(Math.max(...turns) - Math.min(...turns)).toBeGreaterThan(0.001);
  disconnectSuit(id);
});

test('the drift that is shown is the drift that is recorded, and another calibration sets it back', () => {
  const { id } = connectSuit(settings({ drift: 30 }));
  calibrate(id);
  const record = () => {
    commandSuit(id, 'record');
    const { driftDeg } = readSuit(id).status;
    pass(2);
    commandSuit(id, 'stop');
    const turned = facing(readTake(recordingOf(id), 'kept.bvh'));
    commandSuit(id, 'discard');
    return { driftDeg, turned };
  };
  const fresh = record();
  expect(fresh.driftDeg).toBeCloseTo(0, 1);
  pass(60);
  const later = record();
  expect(later.driftDeg).toBeGreaterThan(30);
  expect(Math.abs(later.turned - fresh.turned)).toBeCloseTo(later.driftDeg - fresh.driftDeg, 0);
  calibrate(id);
  expect(readSuit(id).status.driftDeg).toBeCloseTo(0, 1);
  disconnectSuit(id);
});

test('another stature is another performer, who is not calibrated; a sensor that drops out is shown as lost', () => {
  const { id } = connectSuit(settings({ dropped: 30, seconds: 20 }));
  calibrate(id);
  commandSuit(id, 'record');
  const lost = Array.from({ length: 80 }, () => {
    pass(0.25);
    return readSuit(id).status.sensors.filter(({ isHeard }) => !isHeard).length;
  });
  expect(Math.max(...lost)).toBeGreaterThan(0);
  expect(Math.min(...lost)).toBe(0);
  commandSuit(id, 'stop');
  commandSuit(id, 'discard');
  const small = setSuit(id, settings({ stature: 1.5 }));
  expect(Math.max(...small.skeleton.joints.map(({ offset }) => offset[1]))).toBeLessThan(0.95);
  expect(readSuit(id).status.calibratedSeconds).toBeNull();
  disconnectSuit(id);
});

test('there are never more than eight suits, and one that nobody looks at goes off by itself', () => {
  const ids = Array.from({ length: 8 }, () => connectSuit(settings()).id);
  expect(() => connectSuit(settings())).toThrow('8 suits');
  pass(11 * 60);
  const late = connectSuit(settings()).id;
  expect(() => readSuit(ids[0])).toThrow('switched off');
  disconnectSuit(late);
});

test('eight desks may listen to a suit; one that leaves makes room, and the stream begins with a pose', async () => {
  jest.useRealTimers();
  const { id } = connectSuit(settings());
  const listen = async () => {
    const leave = new AbortController();
    const request = new Request(`http://localhost/api/suit/${id}/stream`, { headers: { host: 'localhost' }, signal: leave.signal });
    const response = await GET(request, { params: Promise.resolve({ suit: id }) });
    return { response, leave };
  };
  const desks = await Promise.all(Array.from({ length: 8 }, listen));
  expect(desks.map(({ response }) => response.status)).toEqual(Array(8).fill(200));
  const refused = (await listen()).response;
  expect([refused.status, (await refused.json()).code]).toEqual([503, 'listeners']);
  desks[3].leave.abort();
  const next = await listen();
  expect(next.response.status).toBe(200);
  const first = await next.response.body?.getReader().read();
  expect(new TextDecoder().decode(first?.value)).toMatch(/^event: pose\ndata: /);
  for (const { leave } of [...desks, next]) leave.abort();
  expect(disconnectSuit(id)).toBe(true);
});
