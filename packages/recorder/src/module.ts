/** What `nettle-patch/recorder` offers to pages that do not come through the proxy. */
export { joinByCode } from './tag/join';
