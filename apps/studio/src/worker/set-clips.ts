import { keptClips } from './kept-clips';
import { madeClips } from './made-clips';

/** The names of this program's files change with what is in them; while it is being written they do not. */
const program = process.env.NODE_ENV === 'production' ? self.location.href : null;

/** The clips of the sets that this worker is asked for. */
export const setClips = madeClips(keptClips(program));
