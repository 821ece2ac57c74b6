// Loads a GLB with a third general loader and prints, per animation, where every joint is at twenty instants: it gives nodes and keys, which are played by
// straight lines and the shorter arc, as files of straight keys are.
import { createRequire } from 'node:module';
import { readFileSync } from 'node:fs';
import { Matrix4, Quaternion, Vector3 } from 'three';
import { instants } from './instants.mjs';

const assimp = await createRequire(import.meta.url)('assimpjs')();
const list = new assimp.FileList();
list.AddFile('set.glb', new Uint8Array(readFileSync(process.argv[2])));
const result = assimp.ConvertFileList(list, 'assjson');
if (!result.IsSuccess()) throw new Error(result.GetErrorCode());
const scene = JSON.parse(new TextDecoder().decode(result.GetFile(0).GetContent()));

const [a, b] = [new Quaternion(), new Quaternion()];
/** Keys are [time, value]; what is before the first and after the last is held. */
function at(keys, time, read) {
  let k = 0;
  while (k + 1 < keys.length && keys[k + 1][0] <= time) k++;
  const next = Math.min(k + 1, keys.length - 1);
  const span = keys[next][0] - keys[k][0];
  return read(keys[k][1], keys[next][1], span > 0 ? Math.min(1, Math.max(0, (time - keys[k][0]) / span)) : 0);
}
const turn = (keys, time) =>
  // It writes w first.
  at(keys, time, ([w, x, y, z], [w2, x2, y2, z2], u) =>
    a
      .set(x, y, z, w)
      .slerp(b.set(x2, y2, z2, w2), u)
      .clone(),
  );
const place = (keys, time) => at(keys, time, (p, q, u) => new Vector3(...p).lerp(new Vector3(...q), u));

const clips = scene.animations.map(({ name, duration, tickspersecond, channels }) => {
  const byNode = new Map(channels.map((channel) => [channel.name, channel]));
  const seconds = duration / tickspersecond;
  const poses = instants(seconds).map((t) => {
    const pose = {};
    const visit = (node, above) => {
      const own = byNode.get(node.name);
      const local = new Matrix4().fromArray(node.transformation).transpose();
      if (own) {
        const [p, q, s] = [new Vector3(), new Quaternion(), new Vector3()];
        local.decompose(p, q, s);
        local.compose(
          own.positionkeys?.length ? place(own.positionkeys, t * tickspersecond) : p,
          own.rotationkeys?.length ? turn(own.rotationkeys, t * tickspersecond) : q,
          s,
        );
      }
      const world = above.clone().multiply(local);
      pose[node.name] = new Vector3().setFromMatrixPosition(world).toArray();
      for (const child of node.children ?? []) visit(child, world);
    };
    visit(scene.rootnode, new Matrix4());
    return pose;
  });
  return { name, duration: seconds, poses };
});
console.log(JSON.stringify({ bones: Object.keys(clips[0].poses[0]).length, clips }));
