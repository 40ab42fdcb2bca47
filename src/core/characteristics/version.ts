/**
 * Raised when a name, unit, way or function of a quantity changes, or one comes or goes: what was kept under an earlier dictionary is
 * worked out again then. A test holds it against the dictionary's contents.
 */
export const DICTIONARY_VERSION = 3;
