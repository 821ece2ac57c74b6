// What is needed before anything is worked out: who asks for these alone reads nothing else of the core.
export { InputError } from './error';
export { SLOT_LISTS } from './set/slot-list-names';
