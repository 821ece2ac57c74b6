/**
 * Forward kinematics of a block of frames, two numbers at a time: the sums of `src/model/kinematics.ts` in the same order and with the same
 * rounding, so the results are the same to the bit. In AssemblyScript; `npm run simd` compiles it into `src/model/pose-block-code.ts`.
 *
 * Joint after joint and not frame after frame: what follows then does not wait for what was worked out just before.
 *
 * @param parents an i32 for each joint
 * @param offsets six f64 for each joint: x y, z x, y z of its offset
 * @param local rotations, four f32 for each joint of each frame
 * @param places three f32 for each joint of each frame; the first joint's are there already
 * @param world rotations in the world, as `local`
 */
export function pose(frames: i32, joints: i32, parents: usize, offsets: usize, local: usize, places: usize, world: usize): void {
  const flipSecond = i64x2(0, 0x8000000000000000);
  const turnStride = (<usize>joints) << 4;
  const placeStride = <usize>joints * 12;
  for (let f = 0; f < frames; f++) v128.store(world + <usize>f * turnStride, v128.load(local + <usize>f * turnStride));
  for (let j = 1; j < joints; j++) {
    const parent = load<i32>(parents + ((<usize>j) << 2));
    const offset = offsets + <usize>j * 48;
    const vxy = v128.load(offset);
    const vz = load<f64>(offset, 16);
    // Twice the offset: doubling rounds nothing, so it may be done before the products.
    const vzx2 = f64x2.add(v128.load(offset, 16), v128.load(offset, 16));
    const vyz2 = f64x2.add(v128.load(offset, 32), v128.load(offset, 32));
    const vx2 = 2 * load<f64>(offset);
    const vy2 = 2 * load<f64>(offset, 8);
    let q = world + ((<usize>parent) << 4);
    let b = local + ((<usize>j) << 4);
    let turned = world + ((<usize>j) << 4);
    let from = places + <usize>(parent * 12);
    let to = places + <usize>(j * 12);
    for (let f = 0; f < frames; f++) {
      const qxy = f64x2.promote_low_f32x4(v128.load64_zero(q));
      const qzw = f64x2.promote_low_f32x4(v128.load64_zero(q, 8));
      const x = v128.shuffle<f64>(qxy, qxy, 0, 0);
      const y = v128.shuffle<f64>(qxy, qxy, 1, 1);
      const z = v128.shuffle<f64>(qzw, qzw, 0, 0);
      const w = v128.shuffle<f64>(qzw, qzw, 1, 1);
      // The parent's rotation · the joint's own.
      const bxy = f64x2.promote_low_f32x4(v128.load64_zero(b));
      const bzw = f64x2.promote_low_f32x4(v128.load64_zero(b, 8));
      const bwz = v128.xor(v128.shuffle<f64>(bzw, bzw, 1, 0), flipSecond);
      const byx = v128.xor(v128.shuffle<f64>(bxy, bxy, 1, 0), flipSecond);
      const first = f64x2.sub(f64x2.add(f64x2.add(f64x2.mul(w, bxy), f64x2.mul(x, bwz)), f64x2.mul(y, bzw)), f64x2.mul(z, byx));
      const second = f64x2.add(f64x2.sub(f64x2.add(f64x2.mul(w, bzw), f64x2.mul(x, byx)), f64x2.mul(y, bxy)), f64x2.mul(z, bwz));
      v128.store(turned, v128.shuffle<f64>(f32x4.demote_f64x2_zero(first), f32x4.demote_f64x2_zero(second), 0, 2));
      // The parent's place + its rotation of the offset: v + w t + q × t, where t = 2 q × v.
      const yz = v128.shuffle<f64>(qxy, qzw, 1, 2);
      const zx = v128.shuffle<f64>(qzw, qxy, 0, 2);
      const txy = f64x2.sub(f64x2.mul(yz, vzx2), f64x2.mul(zx, vyz2));
      const tx = f64x2.extract_lane(txy, 0);
      const ty = f64x2.extract_lane(txy, 1);
      const qx = f64x2.extract_lane(qxy, 0);
      const qy = f64x2.extract_lane(qxy, 1);
      const tz = qx * vy2 - qy * vx2;
      const tzz = f64x2.splat(tz);
      const before = f64x2.promote_low_f32x4(v128.load64_zero(from));
      const straight = f64x2.add(f64x2.add(before, vxy), f64x2.mul(w, txy));
      const crossed = f64x2.add(straight, f64x2.mul(yz, v128.shuffle<f64>(tzz, txy, 0, 2)));
      const place = f64x2.sub(crossed, f64x2.mul(zx, v128.shuffle<f64>(txy, tzz, 1, 2)));
      v128.store64_lane(to, f32x4.demote_f64x2_zero(place), 0);
      store<f32>(to, <f32>(<f64>load<f32>(from, 8) + vz + f64x2.extract_lane(qzw, 1) * tz + qx * ty - qy * tx), 8);
      q += turnStride;
      b += turnStride;
      turned += turnStride;
      from += placeStride;
      to += placeStride;
    }
  }
}
