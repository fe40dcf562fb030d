import { LOOPBACK_NAMES } from '../gate/guard';
import { lanAddresses } from '../lan/addresses';

/**
 * Origins under which an app's own server may be opened without the proxy: where it runs on this computer, by every name
 * and address of this computer.
 */
export function originsOfApp(targetOrigin: string): string[] {
  const { protocol, hostname, port } = new URL(targetOrigin);
  if (!LOOPBACK_NAMES.includes(hostname)) return [targetOrigin];
  return [...LOOPBACK_NAMES, ...lanAddresses()].map(
    (name) => `${protocol}//${name}${port === '' ? '' : `:${port}`}`,
  );
}
