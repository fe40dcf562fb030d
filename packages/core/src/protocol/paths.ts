/** Path under which a proxied origin serves the recorder and its connection. */
export const RESERVED_PATH = '/__nettle-patch/';
export const RECORDER_PATH = `${RESERVED_PATH}recorder.js`;
/** The part of the recorder that keeps steps. It is loaded before the recorder. */
export const STEPS_PATH = `${RESERVED_PATH}steps.js`;
/** The part of the recorder for engines that tell neither of inputs nor of long tasks. It is loaded before the recorder. */
export const LISTENERS_PATH = `${RESERVED_PATH}listeners.js`;
/** The part of the recorder for what one family of engines tells and no other. It is loaded before the recorder. */
export const BLINK_PATH = `${RESERVED_PATH}blink.js`;
/** The part of the recorder for frames of a page. It is loaded before the recorder. */
export const FRAME_PATH = `${RESERVED_PATH}frame.js`;
/** The part of the recorder for pages whose scripts are rewritten. It is loaded after the recorder. */
export const REWRITTEN_PATH = `${RESERVED_PATH}rewritten.js`;
/** The part of the recorder for scripts that tell where they stand. It is loaded before the recorder. */
export const FINE_PATH = `${RESERVED_PATH}fine.js`;
/** Where a page asks which scripts are being rewritten. */
export const IN_WORK_PATH = `${RESERVED_PATH}in-work`;
/** The recorder for pages that do not come through the proxy, which join by a code. */
export const TAG_PATH = `${RESERVED_PATH}tag.js`;
/** The same as a module. */
export const MODULE_PATH = `${RESERVED_PATH}module.js`;
/** The part of the recorder that runs as a worker. */
export const SENDER_PATH = `${RESERVED_PATH}sender.js`;
/** The part of the recorder that has another worker keep the connection, for an engine that needs it. It is loaded before the recorder. */
export const HOLDER_PATH = `${RESERVED_PATH}holder.js`;
/** Where the text of a worker that a page has made itself gets the recorder. */
export const WORKER_SCRIPT_PATH = `${RESERVED_PATH}worker-script`;
/** Under it a device of the room is let in; a code follows. */
export const PAIR_PATH = `${RESERVED_PATH}pair/`;
/** The part of the recorder that shows on a device that it is being recorded. */
export const SIGN_PATH = `${RESERVED_PATH}sign.js`;
/** Under it stand the pages of trials, each under its id. */
export const TRIAL_PATH = `${RESERVED_PATH}trial/`;
/** Where a program sends a whole recording. */
export const FILE_PATH = `${RESERVED_PATH}file`;
/** Where rows come that have no connection; the secret stands in the query. */
export const ROWS_PATH = `${RESERVED_PATH}rows`;
/** Where a page of this origin asks for its secret. */
export const JOIN_PATH = `${RESERVED_PATH}join`;
export const TARGET_SOCKET_PATH = `${RESERVED_PATH}target`;
/** Path of the interface's connection on the tool's own origin. */
export const INTERFACE_SOCKET_PATH = '/relay';

/** Codes with which the server closes a connection (RFC 6455, section 7.4.2: private use). */
export const CLOSE_WRONG_SECRET = 4401;
export const CLOSE_BAD_MESSAGE = 4400;
export const CLOSE_TURNED_AWAY = 4403;
export const CLOSE_TOO_MUCH = 4429;
