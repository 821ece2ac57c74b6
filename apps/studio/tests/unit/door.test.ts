import { behindTheDoor, doorTo } from '@/data/door';

const origin = 'http://quay.local:4180';
const search = (address: string) => new URL(address, origin).search;

test('who had to say the passphrase first gets to the page that was asked for, with what was behind its question mark', () => {
  for (const asked of ['/gullmouth/takes', '/gullmouth/takes?capture=walks&x=1', '/gullmouth/bench/a%20b', '/'])
    expect(behindTheDoor(search(doorTo(asked)), origin)).toBe(asked);
  expect(doorTo('/')).toBe('/enter');
});

test('nobody is led to another machine, or to anything but a page', () => {
  for (const asked of [
    '//elsewhere.example/x',
    '/\\elsewhere.example',
    'http://elsewhere.example',
    'javascript:alert(1)',
    '',
    'takes',
    '//',
  ])
    expect([asked, behindTheDoor(`?${new URLSearchParams({ to: asked })}`, origin)]).toEqual([asked, '/']);
  expect(behindTheDoor('', origin)).toBe('/');
});
