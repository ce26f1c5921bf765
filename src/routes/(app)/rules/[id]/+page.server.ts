import { faultsOfRule } from '$lib/server/rule/rule-fault-views.ts';
import { error, fail } from '@sveltejs/kit';
import { CodedError, errorSentence } from '$lib/core/errors.ts';
import { read } from '$lib/server/input/fields.ts';
import { ruleSchema } from '$lib/server/rule/schema.ts';
import { ruleChoices } from '$lib/server/rule/rule-choices.ts';
import { RuleConflict, RuleIncomplete, type RuleInput } from '$lib/server/rule/rules.ts';
import { hushActions, hushView } from '$lib/server/web/hush.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { Committed } from '$lib/server/workspace/commit.ts';
import type { RuleFault } from '$lib/core/rule/rule-fault.ts';
import type { Actions, PageServerLoad, RequestEvent } from './$types';

export const load: PageServerLoad = (event) => {
  const { viewer, person } = signedIn(event);
  const { app } = event.locals;
  const opened = app.rules.open(Number(event.params.id));
  if (!opened) error(404, errorSentence('rule-gone'));
  const { rule, edited, live } = opened;
  const input = {
    name: rule.name,
    description: rule.description,
    group: rule.group,
    definition: edited.definition
  };
  return {
    id: rule.id,
    state: rule.state,
    wasLive: rule.liveVersion !== null,
    drafted: rule.draftVersion !== null && live !== null,
    keeper: app.rules.keeperName(rule),
    version: edited.number,
    input,
    brief: app.outlooks.brief(rule.id, input, viewer),
    fault: rule.state === 'faulty' ? rule.fault : null,
    uncomputed: faultsOfRule(app, rule.id, viewer),
    stamp: app.rules.stamp(rule.id),
    groups: app.rules.groups(),
    hush: hushView(event, 'rule', rule.id),
    choices: ruleChoices(app, rule.id, viewer),
    // Last: once it is asked for, nothing else may fail.
    outlook: app.later.view('rule outlook', person.id, { ruleId: rule.id, input }),
    tasks: app.later.view('tasks to try', person.id, { ruleId: rule.id, input })
  };
};

export const actions: Actions = {
  ...hushActions('rule'),
  save: (event) =>
    act(event, (id, input, app, actor, form) => [
      app.rules.save(actor, id, input, stampOf(form)),
      `“${input.name || 'The rule'}” was saved.`
    ]),
  // What it withdraws has been listed before, by the check.
  turnOn: (event) =>
    act(event, (id, input, app, actor, form) => [
      app.rules.turnOn(actor, id, input, stampOf(form)),
      `“${input.name}” is on.${app.health.nothingLeavesWords()}`
    ]),
  turnOff: (event) =>
    act(event, (id, input, app, actor) => [
      app.rules.turnOff(actor, id),
      `“${input.name}” is off. Waiting notices were withdrawn.`
    ]),
  discard: (event) =>
    act(event, (id, input, app, actor) => [
      app.rules.discard(actor, id),
      `“${input.name || 'The rule'}” was discarded.`,
      '/rules'
    ])
};

type Act = (
  id: number,
  input: RuleInput,
  app: App.Locals['app'],
  actor: ReturnType<typeof signedIn>['actor'],
  form: FormData
) => [committed: Committed<void>, done: string, goto?: string];

/** Reads the rule that the page holds and does something with it; faults come back at their parts. */
async function act(event: RequestEvent, work: Act) {
  const { actor } = signedIn(event);
  const form = await event.request.formData();
  const parsed = parseJson(String(form.get('rule') ?? ''));
  const input = read(ruleSchema, parsed);
  if (!input.ok) {
    const [field, message] = Object.entries(input.errors)[0]!;
    return fail(400, {
      message,
      faults: [{ part: partOf(field), code: 'bad-field', message }] as RuleFault[]
    });
  }
  try {
    const [{ changeId }, done, goto] = work(
      Number(event.params.id),
      input.value,
      event.locals.app,
      actor,
      form
    );
    return { done, changeId, goto };
  } catch (failure) {
    if (failure instanceof RuleConflict)
      return fail(409, {
        message: `${failure.message} Your text is still here.`,
        faults: [] as RuleFault[],
        conflict: true
      });
    if (failure instanceof RuleIncomplete)
      return fail(400, { message: 'Not ready to turn on.', faults: failure.faults });
    if (failure instanceof CodedError)
      return fail(400, { message: failure.message, faults: [] as RuleFault[] });
    throw failure;
  }
}

/** As the rule was when the page read it; null where its author says that it may be overwritten. */
function stampOf(form: FormData): string | null {
  return form.get('over') === 'yes' ? null : String(form.get('stamp') ?? '');
}

function partOf(field: string): RuleFault['part'] {
  if (field.startsWith('definition.watch')) return 'watch';
  if (field.startsWith('definition.leads')) return 'ring';
  if (field.startsWith('definition.steps')) return 'tell';
  return field.startsWith('definition.stop') || field.startsWith('definition.past') ? 'stop' : 'name';
}

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    // What is no JSON is no rule either: the schema says so.
    return null;
  }
}
