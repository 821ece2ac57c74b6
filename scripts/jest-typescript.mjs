// What is read from here on may be TypeScript.
import { register } from 'tsx/esm/api';

register();
