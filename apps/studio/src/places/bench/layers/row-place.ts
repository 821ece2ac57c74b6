/** Where a row lies, and how frames of the layers lie on the time axis. */
export interface RowPlace {
  readonly x: (frame: number) => number;
  readonly frameAt: (clientX: number) => number;
  readonly y: number;
  readonly height: number;
  readonly x0: number;
  readonly width: number;
}
