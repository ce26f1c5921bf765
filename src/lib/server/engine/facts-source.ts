import { ALWAYS_OPEN } from '../../core/calendar/spec.ts';
import { CompiledCalendar } from '../../core/calendar/compiled.ts';
import {
  compileRule,
  type Facts,
  type PersonFacts,
  type ProjectFacts,
  type RuleFacts
} from '../../core/forecast/facts.ts';
import { Planner } from '../../core/forecast/planner.ts';
import { parseTimeOfDay } from '../../core/time/time-of-day.ts';
import { zoneNamed } from '../../core/time/zone.ts';
import type { Calendar } from '../../core/calendar/spec.ts';
import { toCalendar } from '../store/calendars.ts';
import type { Stores } from '../store/all.ts';
import type { Rule } from '../store/rules.ts';

/** A rule that is on, compiled, with the version that is live. */
export interface LiveRule {
  facts: RuleFacts;
  versionId: number;
  /** The change that turned it on. */
  onChange: number;
}

/**
 * The workspace compiled for the core: people, calendars, projects and live rules. Kept until something it is made of
 * changes; tasks are read when they are needed.
 */
export class FactsSource {
  readonly #stores: Stores;
  #planner: Planner | null = null;
  #live: LiveRule[] | null = null;

  constructor(stores: Stores) {
    this.#stores = stores;
  }

  /** Forgets what was compiled. */
  invalidate(): void {
    this.#planner = null;
    this.#live = null;
  }

  get facts(): Facts {
    return this.planner.facts;
  }

  get planner(): Planner {
    return (this.#planner ??= new Planner(this.#compile()));
  }

  /** Rules that are on, in their order. */
  liveRules(): readonly LiveRule[] {
    return (this.#live ??= this.#stores.rules.all().flatMap((rule) => {
      const live = this.#liveRule(rule);
      return live ? [live] : [];
    }));
  }

  #liveRule(rule: Rule): LiveRule | null {
    if (rule.state !== 'on' || rule.liveVersion === null) return null;
    const version = this.#stores.rules.version(rule.liveVersion);
    if (!version) return null;
    const facts = compileRule(rule.id, rule.name, rule.position, version.definition);
    return { facts, versionId: version.id, onChange: rule.onChange ?? 0 };
  }

  #compile(): Facts {
    const settings = this.#stores.settings.workspace();
    const calendars = new Map<number, Calendar>(
      this.#stores.calendars.all().map((record) => [record.id, toCalendar(record)])
    );
    const compiled = new Map<string, CompiledCalendar>();
    const inZone = (calendarId: number | null, zoneName: string): CompiledCalendar => {
      const key = `${calendarId ?? ''} ${zoneName}`;
      const known = compiled.get(key);
      if (known) return known;
      const calendar = (calendarId === null ? undefined : calendars.get(calendarId)) ?? ALWAYS_OPEN;
      const made = new CompiledCalendar(calendar, zoneNamed(zoneName));
      compiled.set(key, made);
      return made;
    };
    const zoneName = settings?.zone ?? 'UTC';
    const people = new Map<number, PersonFacts>();
    for (const person of this.#stores.people.all()) {
      people.set(person.id, {
        id: person.id,
        name: person.name,
        email: person.email,
        zone: zoneNamed(person.zone),
        calendar: inZone(person.calendarId, person.zone),
        managerId: person.managerId
      });
    }
    const projects = new Map<number, ProjectFacts>();
    for (const { id, name, zone, calendarId, pinned } of this.#stores.projects.all()) {
      const calendar = calendarId === null ? null : inZone(calendarId, zone ?? zoneName);
      projects.set(id, { id, name, zone: zone === null ? null : zoneNamed(zone), calendar, pinned });
    }
    return {
      workspace: {
        zone: zoneNamed(zoneName),
        calendar: inZone(settings?.calendarId ?? null, zoneName),
        noticeMinute: parseTimeOfDay(settings?.noticeTime ?? '09:00'),
        endOfDay: settings?.endOfDay ?? 'midnight'
      },
      people,
      projects
    };
  }
}
