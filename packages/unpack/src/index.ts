export { unpackGlb } from './unpack-glb';
export { validateGlb } from './validate-glb';
