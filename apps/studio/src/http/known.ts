import { z } from 'zod';

/**
 * Plain data of the core, which the core itself made and stored: that it is an object is checked here, its shape where it is read from a file.
 *
 * @example
 * const skeletonSchema = known<Skeleton>();
 */
export const known = <T extends object>() => z.custom<T>((value) => typeof value === 'object' && value !== null, 'is not there');
