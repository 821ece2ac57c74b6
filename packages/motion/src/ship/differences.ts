import { editedGlb } from '../formats/glb-edit';
import { restOf } from '../formats/gltf-affine';
import { openGltf } from '../formats/gltf-container';
import { readTracks, sampleTrack, type Track } from '../formats/gltf-track';
import { multiply } from '../math/quat';

/** What the animation of the base pose is called, and those of what clips are more than it. */
export const BASE_POSE = 'base-pose';
export const differenceName = (animation: string): string => `${animation}-difference`;

/**
 * A file with a base pose as an animation of one key, and some of its animations once more as what they are more than that pose: turns by which a joint is
 * turned on from the base's (`pose · difference`), and shifts that are added.
 *
 * @param base the animation that the pose is taken from, and its seconds
 * @param of animations of the file
 */
export function withDifferences(
  bytes: Uint8Array,
  prefix: string,
  base: { readonly animation: string; readonly seconds: number },
  of: readonly string[],
): Uint8Array {
  const gltf = openGltf(bytes);
  const animationOf = (name: string) => gltf.json.animations.find((own) => own.name === name);
  const from = animationOf(base.animation);
  if (!from) return bytes;
  const name = `${prefix}${BASE_POSE}`;
  const pose = new Map<string, number[]>();
  for (const [node, own] of readTracks(gltf, from, base.animation))
    for (const [path, track] of Object.entries(own)) {
      const value = Array<number>(track.width).fill(0);
      sampleTrack(value, 0, track, base.seconds);
      pose.set(`${path} ${node}`, value);
    }
  return editedGlb(bytes, (document, binary) => {
    const animations = (document.animations ??= []);
    const one = binary.accessor(new Float32Array(1), 1);
    const made = { name, channels: [], samplers: [], extras: { base: true } } as (typeof animations)[number];
    for (const [key, value] of pose) {
      const [path, node] = key.split(' ');
      made.channels.push({ sampler: made.samplers.length, target: { node: Number(node), path } });
      made.samplers.push({
        input: one,
        output: binary.accessor(Float32Array.from(value), value.length === 4 ? 4 : 3),
        interpolation: 'LINEAR',
      });
    }
    animations.push(made);
    for (const wanted of of) {
      const whole = animationOf(wanted);
      const written = animations.find((own) => own.name === wanted);
      if (!whole || !written) continue;
      const tracks = readTracks(gltf, whole, wanted);
      animations.push({
        name: differenceName(wanted),
        extras: { ...(typeof written.extras === 'object' && written.extras), difference: true, base: name },
        channels: written.channels.map((channel) => ({ ...channel })),
        samplers: written.channels.map(({ sampler, target: { node = 0, path } }) => {
          const own = written.samplers[sampler];
          const track = tracks.get(node)?.[path === 'rotation' ? 'rotation' : 'translation'];
          const rest = restOf(gltf.json, node)[path === 'rotation' ? 'rotation' : 'translation'];
          if (!track) return own;
          return { ...own, output: binary.accessor(less(track, pose.get(`${path} ${node}`) ?? rest), track.width) };
        }),
      });
      const last = animations[animations.length - 1];
      last.channels.forEach((channel, i) => (channel.sampler = i));
    }
  });
}

/** The keys of a track, with their slopes, as what they are more than a value. */
function less({ values, width, kind }: Track, base: readonly number[]): Float32Array {
  const out = new Float32Array(values.length);
  const back = width === 4 ? [-base[0], -base[1], -base[2], base[3]] : base;
  const perKey = kind === 'CUBICSPLINE' ? 3 : 1;
  for (let i = 0; i < values.length / width; i++) {
    // Turning on is linear in what is turned, so that slopes are turned as values are; a shift has no slope.
    if (width === 4) multiply(out, i * 4, back, 0, values, i * 4);
    else for (let k = 0; k < width; k++) out[i * width + k] = values[i * width + k] - (perKey === 1 || i % 3 === 1 ? base[k] : 0);
  }
  return out;
}
