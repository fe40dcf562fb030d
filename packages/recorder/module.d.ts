/**
 * Records a page that does not come through the proxy, once it was let in. What it does until then is recorded too, if it
 * was asked for. To be called as early as can be: what ran before it is not seen.
 * @param server origin of the room, as the Record view of Nettle Patch shows it, such as "http://192.168.1.7:4782"
 * @param code that lets one device in; a page that is loaded again in its tab is known by it
 * @returns whether it was let in; where it was not, the page says so in its console
 */
export function joinByCode(server: string, code: string): Promise<boolean>;
