import { NextResponse, type NextRequest } from 'next/server';
import { doorTo } from '@/data/door';
import { guardOf, hasSession, isServed, NOT_SERVED } from '@/server/guard';

/**
 * Every page: only under names of ours, only with a session where one is asked for, with a strict content security policy and a fresh
 * nonce. Routes of the API are guarded by `respond`, which does not hold their bodies.
 */
export function proxy(request: NextRequest): NextResponse {
  const guard = guardOf();
  const host = request.headers.get('host');
  if (!isServed(host, guard)) return new NextResponse(NOT_SERVED, { status: 421 });
  const { pathname, searchParams } = request.nextUrl;
  const isOpen = pathname === '/enter' || pathname.startsWith('/_next/');
  // To the name that was asked, which is one of ours: the address that the server listens on may be none that a browser can go to.
  if (!isOpen && !hasSession(request.headers.get('cookie'), guard)) {
    // How the page is to be answered, which the router asks for behind the question mark, is no part of where somebody wants to go.
    searchParams.delete('_rsc');
    const asked = searchParams.size > 0 ? `${pathname}?${searchParams}` : pathname;
    return NextResponse.redirect(new URL(doorTo(asked), `${request.nextUrl.protocol}//${host}`));
  }
  const nonce = btoa(crypto.randomUUID());
  const development = process.env.NODE_ENV === 'development';
  const policy = [
    "default-src 'self'",
    // Text is never run as a script; what thins a figure's triangles is WebAssembly.
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic' 'wasm-unsafe-eval'${development ? " 'unsafe-eval'" : ''}`,
    // The style library writes style elements as components appear.
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' blob: data:",
    "font-src 'self'",
    "worker-src 'self' blob:",
    "connect-src 'self'",
    "object-src 'none'",
    "base-uri 'self'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
  const headers = new Headers(request.headers);
  headers.set('content-security-policy', policy);
  headers.set('x-nonce', nonce);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('content-security-policy', policy);
  response.headers.set('x-content-type-options', 'nosniff');
  response.headers.set('referrer-policy', 'same-origin');
  return response;
}

export const config = { matcher: ['/((?!api/).*)'] };
