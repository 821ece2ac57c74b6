/** Arrays that an accessor can be made of. */
type Elements = Float32Array | Int16Array | Uint16Array | Uint32Array;

/** Component types of glTF. */
const TYPES: readonly (readonly [new () => Elements, number])[] = [
  [Float32Array, 5126],
  [Int16Array, 5122],
  [Uint16Array, 5123],
  [Uint32Array, 5125],
];
const WIDTHS = { 1: 'SCALAR', 3: 'VEC3', 4: 'VEC4', 16: 'MAT4' } as const;

/** A document's first buffer with more behind it. */
export class AppendedGltf {
  private readonly parts: Uint8Array[];
  private length: number;
  private readonly accessors: object[];
  private readonly views: object[];

  constructor(
    private readonly document: Record<string, unknown>,
    binary: Uint8Array,
  ) {
    this.accessors = listIn(document, 'accessors');
    this.views = listIn(document, 'bufferViews');
    this.parts = [binary];
    this.length = binary.length;
    this.pad();
  }

  /**
   * The number of a new accessor, `width` numbers to an element; 16-bit numbers with a sign stand for −1 to 1.
   *
   * @param bounds whether its least and its most are noted: of times and of places of vertices they must be
   */
  accessor(values: Elements, width: keyof typeof WIDTHS, { bounds = width === 1 }: { readonly bounds?: boolean } = {}): number {
    const bytes = new Uint8Array(values.buffer, values.byteOffset, values.byteLength);
    this.views.push({ buffer: 0, byteOffset: this.length, byteLength: bytes.length });
    this.accessors.push({
      bufferView: this.views.length - 1,
      componentType: TYPES.find(([kind]) => values instanceof kind)?.[1],
      ...(values instanceof Int16Array && { normalized: true }),
      count: values.length / width,
      type: WIDTHS[width],
      ...(bounds && boundsOf(values, width)),
    });
    this.parts.push(bytes);
    this.length += bytes.length;
    this.pad();
    return this.accessors.length - 1;
  }

  /** All of it; the document's first buffer is made as long. */
  bytes(): Uint8Array {
    const out = new Uint8Array(this.length);
    let at = 0;
    for (const part of this.parts) {
      out.set(part, at);
      at += part.length;
    }
    const buffers = listIn(this.document, 'buffers');
    buffers[0] = { ...buffers[0], byteLength: this.length };
    return out;
  }

  private pad(): void {
    const lack = (4 - (this.length % 4)) % 4;
    if (lack > 0) this.parts.push(new Uint8Array(lack));
    this.length += lack;
  }
}

function boundsOf(values: Elements, width: number): { min: number[]; max: number[] } {
  const [min, max] = [Array<number>(width).fill(Infinity), Array<number>(width).fill(-Infinity)];
  for (let i = 0; i < values.length; i++) {
    min[i % width] = Math.min(min[i % width], values[i]);
    max[i % width] = Math.max(max[i % width], values[i]);
  }
  return { min, max };
}

function listIn(document: Record<string, unknown>, name: string): object[] {
  const list = document[name];
  if (Array.isArray(list)) return list as object[];
  const made: object[] = [];
  document[name] = made;
  return made;
}
