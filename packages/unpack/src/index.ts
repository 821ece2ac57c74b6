export { unpackGlb } from './unpack-glb';
