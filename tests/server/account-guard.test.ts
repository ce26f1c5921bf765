import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { mayTouchAccount } from '../../src/lib/core/access/accounts.ts';
import type { Role } from '../../src/lib/core/access/deeds.ts';
import type { PersonInput } from '../../src/lib/server/person/schema.ts';
import { signedInAs, undoerAs } from '../../src/lib/server/workspace/signed-in.ts';
import { openWorkspace, received, type TestWorkspace } from '../support/workspace.ts';

/** Who may change by which address somebody comes in, and what follows of it, whichever way it is changed. Ines is a coordinator. */
let workspace: TestWorkspace;
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T07:40:00Z');
});
afterEach(() => workspace.close());

const id = (name: string) => workspace.people[name]!;
const personOf = (name: string) => workspace.container.stores.people.byId(id(name))!;
const inputOf = (name: string, patch: Partial<PersonInput> = {}) =>
  ({ ...personOf(name), ...patch }) as PersonInput;
const moveTo = (name: string, email: string, actor = workspace.coordinator) =>
  workspace.container.people.edit(actor, id(name), inputOf(name, { email }));
const setRole = (name: string, role: Role) =>
  workspace.container.committer.commit({ personId: null, source: 'set-up' }, 'set up', (writer) =>
    writer.update('person', id(name), { role })
  );
const guarded = expect.objectContaining({ code: 'account-guarded', field: 'email' });
async function mailTo(address: string): Promise<string[]> {
  await workspace.container.outbox.drain();
  return (await received(workspace)).filter(({ to }) => to.includes(address)).map(({ subject }) => subject);
}

describe('the address of an account', () => {
  it.each<[Role, Role, boolean, boolean]>([
    // by, of, can sign in, may
    ['administrator', 'administrator', true, true],
    ['administrator', 'owner', true, true],
    ['coordinator', 'administrator', false, false],
    ['coordinator', 'coordinator', false, false],
    ['coordinator', 'manager', false, true],
    ['coordinator', 'manager', true, false],
    ['coordinator', 'owner', false, true],
    ['coordinator', 'owner', true, false],
    ['manager', 'owner', false, false],
    ['owner', 'owner', false, false]
  ])('%s changes that of %s (can sign in: %s): %s', (by, role, hasPassword, expected) => {
    expect(mayTouchAccount(by, { role, hasPassword })).toBe(expected);
  });

  it('of an administrator is no coordinator’s to change: not in the form, and not by a sheet', async () => {
    const { peopleSheet, auth } = workspace.container;
    setRole('Tess', 'administrator');
    expect(() => moveTo('Tess', 'mine@test.example')).toThrow(guarded);
    const text = 'name,email\r\nTess,mine@test.example\r\n';
    expect(peopleSheet.look(workspace.coordinator, text, false)[0]!.problem).toContain(
      'Only an administrator'
    );
    expect(() => peopleSheet.confirm(workspace.coordinator, text, false)).toThrow(
      expect.objectContaining({ code: 'people-nothing' })
    );
    // Of somebody below who can sign in neither; of somebody who cannot it is.
    await auth.setPassword(id('Nora'), 'wind and water');
    expect(() => moveTo('Nora', 'mine@test.example')).toThrow(guarded);
    moveTo('Salim', 'salim.new@test.example');
    expect(personOf('Salim').email).toBe('salim.new@test.example');
  });

  it('once changed, opens nothing by what was mailed before, and the old address is told', async () => {
    const { accounts, auth } = workspace.container;
    accounts.invite(id('Nora'), 'Ines');
    const open = auth.makePasswordLink(id('Nora'), 72)!;
    moveTo('Nora', 'nora.new@test.example');
    expect(auth.personOfLink(open)).toBeNull();
    expect(await mailTo('nora@test.example')).toContain('Your address was changed');
    expect(await mailTo('nora.new@test.example')).toEqual([]);
    // Nobody is told of an address that let nobody in.
    moveTo('Meera', 'meera.new@test.example');
    expect(await mailTo('meera@test.example')).toEqual([]);
  });

  it('cannot be brought back by an undo that its author could not do any more', async () => {
    const { stores, undo, auth } = workspace.container;
    const { changeId } = moveTo('Salim', 'salim.new@test.example');
    await auth.setPassword(id('Salim'), 'wind and water');
    const ines = undoerAs(signedInAs(stores.people.byId(id('Ines'))!, stores));
    expect(() => undo.undo(changeId, ines)).toThrow(expect.objectContaining({ code: 'no-access' }));
    setRole('Ines', 'administrator');
    undo.undo(changeId, undoerAs(signedInAs(stores.people.byId(id('Ines'))!, stores)));
    expect(personOf('Salim').email).toBe('salim@test.example');
    expect(await mailTo('salim.new@test.example')).toEqual(['Your address was changed']);
  });
});

describe('somebody who is switched off', () => {
  it.each(['by hand', 'by a sheet', 'by an undo'])('has no session that lives again: %s', (way) => {
    const { people, peopleSheet, committer, auth } = workspace.container;
    people.deactivate(workspace.coordinator, id('Nora'));
    const { changeId } = people.activate(workspace.coordinator, id('Nora'));
    const session = auth.signInAs(id('Nora'));
    if (way === 'by hand') people.deactivate(workspace.coordinator, id('Nora'));
    if (way === 'by a sheet') peopleSheet.confirm(workspace.coordinator, 'name,active\r\nNora,no\r\n', true);
    if (way === 'by an undo') committer.undo(changeId, id('Ines'));
    expect(personOf('Nora').active).toBe(false);
    people.activate(workspace.coordinator, id('Nora'));
    expect(auth.personOf(session)).toBeNull();
  });

  it('demo: whoever comes in as somebody else leaves no session behind', () => {
    const { auth } = workspace.container;
    const first = auth.signInAs(id('Nora'));
    const second = auth.signInAs(id('Ines'), first);
    expect([auth.personOf(first), auth.personOf(second)?.name]).toEqual([null, 'Ines']);
  });
});
