/** Compared with itself as found, without what was overruled. */
export const RAW = 'raw';
