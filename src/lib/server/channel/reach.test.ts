import { describe, expect, it } from 'vitest';
import { isInside, OutgoingReach } from './reach.ts';

describe('addresses of the open net', () => {
  it.each([
    ...['127.0.0.1', '127.9.9.9', '0.0.0.0', '10.1.2.3', '172.16.0.1', '172.31.255.255', '192.168.1.1'],
    ...['169.254.169.254', '100.64.0.1', '224.0.0.1', '255.255.255.255', '::1', '::', 'fe80::1', 'fd00::1'],
    ...['::ffff:127.0.0.1', '::ffff:10.0.0.1', '::ffff:a9fe:a9fe', '64:ff9b::7f00:1', 'ff02::1', 'not one']
  ])('%s is none', (address) => expect(isInside(address)).toBe(true));

  it.each(['8.8.8.8', '172.32.0.1', '193.0.0.1', '2606:4700::1', '::ffff:8.8.8.8'])('%s is one', (address) =>
    expect(isInside(address)).toBe(false)
  );
});

describe('what channels may be set to', () => {
  const refused = expect.objectContaining({ code: 'address-inside' });
  const found = (reach: OutgoingReach, name: string) =>
    new Promise((resolve) =>
      reach.lookup(name, { all: false }, (failure, address) => resolve(failure ?? address))
    );

  it('is nothing inside, by address or by name, when it is set and when it is used', async () => {
    const reach = new OutgoingReach([]);
    await expect(reach.check('127.0.0.1')).rejects.toEqual(refused);
    await expect(reach.check('[::1]')).rejects.toEqual(refused);
    await expect(reach.check('localhost')).rejects.toEqual(refused);
    expect(await found(reach, 'localhost')).toEqual(refused);
    expect(() => reach.connect('10.0.0.1', 25)).toThrow(refused);
    // A name that nobody knows is asked again when it is used.
    await expect(reach.check('nowhere.invalid')).resolves.toBeUndefined();
  });

  it('is what is named all the same: names, addresses, networks', async () => {
    const reach = new OutgoingReach(['LOCALHOST', '10.1.0.0/16', '::1']);
    await expect(reach.check('localhost')).resolves.toBeUndefined();
    await expect(reach.check('10.1.9.9')).resolves.toBeUndefined();
    await expect(reach.check('[::1]')).resolves.toBeUndefined();
    await expect(reach.check('10.2.0.1')).rejects.toEqual(refused);
    await expect(reach.check('127.0.0.1')).rejects.toEqual(refused);
  });
});
