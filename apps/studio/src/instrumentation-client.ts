import { goOn, holdStill } from '@/data/hold';

/** Next calls this whenever somebody goes to another page of the application. @param url of that page */
export function onRouterTransitionStart(url: string, kind: 'push' | 'replace' | 'traverse'): void {
  const { pathname, search } = new URL(url, window.location.href);
  // Back and forward have changed the address before this is called.
  if (kind === 'traverse' || pathname !== window.location.pathname || search !== window.location.search) holdStill();
  // The page that is there already: whatever was asked for before it will not come any more.
  else goOn();
}
