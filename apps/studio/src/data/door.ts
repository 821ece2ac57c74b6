/**
 * Where somebody is sent who has to say the passphrase first.
 *
 * @param asked the page that was asked for, from its first slash on
 */
export const doorTo = (asked: string): string => (asked === '/' ? '/enter' : `/enter?${new URLSearchParams({ to: asked })}`);

/**
 * Where somebody goes on who has said the passphrase: to the page that was asked for, if it is one of ours, else to the first.
 *
 * @param search what is behind the door's address
 * @param origin of the application
 */
export function behindTheDoor(search: string, origin: string): string {
  const asked = new URLSearchParams(search).get('to') ?? '/';
  // Something like //elsewhere begins with a slash too, and leads to another machine.
  const to = URL.canParse(asked, origin) ? new URL(asked, origin) : null;
  return asked.startsWith('/') && to?.origin === origin ? to.pathname + to.search : '/';
}
