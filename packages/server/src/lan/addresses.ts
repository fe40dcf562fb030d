import { networkInterfaces } from 'node:os';

/** IPv4 addresses of networks that are a home's or an office's (RFC 1918). */
const PRIVATE = /^(10\.|192\.168\.|172\.(1[6-9]|2\d|3[01])\.)/;

/** Addresses by which others in the room may reach this computer, the likeliest first. */
export function lanAddresses(): string[] {
  const all = Object.values(networkInterfaces()).flatMap((addresses) => addresses ?? []);
  const outward = all.filter(({ family, internal }) => family === 'IPv4' && !internal);
  const likely = ({ address }: { address: string }) => (PRIVATE.test(address) ? 0 : 1);
  return outward.sort((a, b) => likely(a) - likely(b)).map(({ address }) => address);
}
