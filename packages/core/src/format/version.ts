/** Name by which the first line of a recording is known. */
export const FORMAT_NAME = 'nettle-patch';
/** A program reads all versions with its own major number, and refuses higher ones. */
export const FORMAT_MAJOR = 1;
export const FORMAT_VERSION = '1.1';
