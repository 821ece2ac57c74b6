import * as React from 'react';

/**
 * Of every element React's development build keeps the stack of calls that made it, up to ten thousand a second, for its own warnings.
 * That is a sixth of the time of the tests of components; without it, what it warns of does not say whose element it was.
 */
const internals: unknown = Reflect.get(React, '__CLIENT_INTERNALS_DO_NOT_USE_OR_WARN_USERS_THEY_CANNOT_UPGRADE');
if (typeof internals !== 'object' || !internals || !('recentlyCreatedOwnerStacks' in internals)) {
  throw new Error('React keeps the stacks of elements elsewhere now');
}
Object.defineProperty(internals, 'recentlyCreatedOwnerStacks', { get: () => Infinity, set: () => undefined });
