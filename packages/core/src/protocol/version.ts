/**
 * Version of this protocol that hellos tell. A higher number would have a program say what this one takes for something
 * else: it is refused. What is merely added needs no new number.
 */
export const PROTOCOL_VERSION = 1;

/** Offered with a web socket beside the secret (RFC 6455, section 1.9), and what the server takes. */
export const SUBPROTOCOL = 'nettle-patch';
