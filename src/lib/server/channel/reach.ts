import { lookup as lookUp, type LookupAddress } from 'node:dns';
import { BlockList, connect, isIP, type LookupFunction, type Socket } from 'node:net';
import { CodedError } from '../../core/errors.ts';

/**
 * Addresses that are no place of the open net: this machine, networks of one's own, links, test and shared ranges, many at once (IANA IPv4 and IPv6
 * Special-Purpose Address Registries, RFC 6890; multicast RFC 5771 and RFC 4291 §2.7).
 */
const INSIDE_4 = [
  ...['0.0.0.0/8', '10.0.0.0/8', '100.64.0.0/10', '127.0.0.0/8', '169.254.0.0/16', '172.16.0.0/12'],
  ...['192.0.0.0/24', '192.0.2.0/24', '192.88.99.0/24', '192.168.0.0/16', '198.18.0.0/15'],
  ...['198.51.100.0/24', '203.0.113.0/24', '224.0.0.0/4', '240.0.0.0/4']
];
const INSIDE_6 = [
  ...['::/128', '::1/128', '64:ff9b::/96', '64:ff9b:1::/48', '100::/64', '2001::/23', '2001:db8::/32'],
  ...['2002::/16', 'fc00::/7', 'fe80::/10', 'fec0::/10', 'ff00::/8']
];

const inside = new BlockList();
for (const net of [...INSIDE_4, ...INSIDE_6]) addTo(inside, net);

/** Whether an address is none of the open net. One of IPv4 that is written as IPv6 (RFC 4291 §2.5.5.2) is asked as what it is. */
export function isInside(address: string): boolean {
  const family = isIP(address);
  return family === 0 || inside.check(address, family === 6 ? 'ipv6' : 'ipv4');
}

/**
 * Which addresses channels may be set to talk to. Whoever sets them could otherwise ask the machines beside this one what they answer. What the
 * server was started with is not asked: who starts it has chosen it.
 */
export class OutgoingReach {
  readonly #names: ReadonlySet<string>;
  readonly #nets = new BlockList();

  /** @param allowed names, addresses and networks (`10.1.0.0/16`) inside that may be talked to all the same */
  constructor(allowed: readonly string[]) {
    const names = new Set<string>();
    for (const one of allowed) if (!addTo(this.#nets, one)) names.add(one.toLowerCase());
    this.#names = names;
  }

  /**
   * Looks a name up, and refuses it where one of its addresses is inside. Node asks it for each connection, so that a name which answers otherwise
   * later is refused then.
   */
  readonly lookup: LookupFunction = (hostname, options, callback) => {
    lookUp(hostname, { ...options, all: true }, (failure, addresses) => {
      if (failure) return callback(failure, '', 0);
      const refused = this.#refusal(hostname, addresses);
      if (refused) return callback(refused, '', 0);
      if (options.all) return callback(null, addresses);
      const [first] = addresses;
      callback(null, first!.address, first!.family);
    });
  };

  /** @throws CodedError `address-inside` where an address that stands in place of a name is inside: such a one is never looked up */
  checkLiteral(host: string): void {
    const address = host.replace(/^\[|\]$/g, '');
    if (isIP(address) === 0) return;
    const refused = this.#refusal(host, [{ address, family: isIP(address) }]);
    if (refused) throw refused;
  }

  /**
   * Whether a channel may be set to an address. A name that nobody knows just now may be: each use asks again.
   * @throws CodedError `address-inside`
   */
  async check(host: string): Promise<void> {
    this.checkLiteral(host);
    if (isIP(host) !== 0) return;
    const addresses = await new Promise<LookupAddress[]>((resolve) =>
      lookUp(host, { all: true }, (failure, found) => resolve(failure ? [] : found))
    );
    const refused = this.#refusal(host, addresses);
    if (refused) throw refused;
  }

  /** Connects to where it may. */
  connect(host: string, port: number): Socket {
    this.checkLiteral(host);
    return connect({ host, port, lookup: this.lookup });
  }

  #refusal(host: string, addresses: readonly LookupAddress[]): CodedError | null {
    if (this.#names.has(host.toLowerCase())) return null;
    const one = addresses.find(
      ({ address, family }) => isInside(address) && !this.#nets.check(address, family === 6 ? 'ipv6' : 'ipv4')
    );
    return one ? new CodedError('address-inside', { host }) : null;
  }
}

/** @returns whether it was an address or a network */
function addTo(list: BlockList, text: string): boolean {
  const [address = '', prefix] = text.split('/');
  const family = isIP(address);
  if (family === 0) return false;
  const type = family === 6 ? 'ipv6' : 'ipv4';
  if (prefix === undefined) list.addAddress(address, type);
  else list.addSubnet(address, Number(prefix), type);
  return true;
}
