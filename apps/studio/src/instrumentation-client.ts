import { holdStill } from '@/data/hold';

/** Next calls this whenever somebody goes to another page of the application. @param url of that page */
export function onRouterTransitionStart(url: string, kind: 'push' | 'replace' | 'traverse'): void {
  const { pathname, search } = new URL(url, window.location.href);
  // Back and forward have changed the address before this is called; else, a page that leads to itself is there already.
  if (kind === 'traverse' || pathname !== window.location.pathname || search !== window.location.search) holdStill();
}
