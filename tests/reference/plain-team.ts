/**
 * What a ladder, a schedule and an event tell about one task, as plainly as it can be written: it goes through time minute by minute, keeps
 * what rang in a list, and knows of calendars only whether a minute is open. Only for tests: zones without a move of their clocks, and
 * nothing but what the property test beside it does. It shares no code with the application.
 *
 * Its rules are those that the documents state: docs/ladders.md (pauses, levels before the date, who hears), docs/rules.md (quiet, new
 * owners), docs/timing.md (holds and openings).
 */
export type Minute = number;
const DAY = 1440;

/** Somebody in a zone so many minutes ahead of Greenwich, with hours on some weekdays (0 is Sunday) and somebody above. */
export interface Person {
  name: string;
  offset: number;
  weekdays: readonly number[];
  open: Minute;
  close: Minute;
  manager: string | null;
}

export type Act =
  | { act: 'comment' }
  | { act: 'priority' }
  | { act: 'owner'; to: string }
  | { act: 'due'; day: number }
  | { act: 'stuck'; is: boolean }
  | { act: 'acknowledge'; until: Minute }
  | { act: 'hush'; of: 'task' | 'ladder' | 'schedule' | 'event' | 'person'; who: string; until: Minute }
  | { act: 'no reminder'; who: string; wants: boolean };

type RuleName = 'ladder' | 'schedule' | 'event';
/** A level before the date counts days back to 09:00; one after it working hours, or days on to 10:00. */
export interface Level {
  before?: number;
  hours?: number;
  days?: number;
  /** Repeats every day, so many times in all. */
  most?: number;
}

interface Telling {
  rule: RuleName;
  /** What rang: for a level its number, repeat and date; an occurrence; a comment. */
  ring: string;
  level: number;
  repeat: number;
  who: string;
  as: readonly ('owner' | 'above')[];
  ringAt: Minute;
  /** Null: it waits until the task waits for others no more. */
  leaves: Minute | null;
  /** The date before the closed-day rule. */
  origin: number;
  state: 'waits' | 'left' | 'same moment' | 'quiet' | 'over' | 'passed on';
}

interface Span {
  from: Minute;
  until: Minute;
}

interface LevelRing {
  level: number;
  repeat: number;
  at: Minute;
  origin: number;
}

/** One task of a team, and what is told about it. */
export class PlainTeam {
  readonly #people: ReadonlyMap<string, Person>;
  readonly #levels: readonly Level[];
  readonly #coordinator: string;
  readonly #oncePerDate: boolean;
  readonly #tellings: Telling[] = [];
  readonly #begun: Minute;
  now: Minute;
  owner: string;
  due: number;
  #assignedAt: Minute;
  #dueSince = -Infinity;
  #stuck: Span[] = [];
  #said: (Span & { due: number })[] = [];
  #hushes: (Span & { of: string; who: string })[] = [];
  #silences: (Span & { who: string })[] = [];
  #comments = 0;

  constructor(
    people: readonly Person[],
    levels: readonly Level[],
    of: { owner: string; due: number; now: Minute; coordinator: string; oncePerDate: boolean }
  ) {
    this.#people = new Map(people.map((person) => [person.name, person]));
    this.#levels = levels;
    this.#coordinator = of.coordinator;
    this.#oncePerDate = of.oncePerDate;
    this.owner = of.owner;
    this.due = of.due;
    this.now = of.now;
    this.#begun = of.now;
    this.#assignedAt = of.now;
  }

  /** What has left: minute, rule and recipient, each once. */
  get left(): string[] {
    const lines = this.#tellings
      .filter(({ state }) => state === 'left')
      .map(
        ({ leaves, rule, who }) => `${new Date(leaves! * 60_000).toISOString().slice(5, 16)} ${rule} ${who}`
      );
    return [...new Set(lines)].sort();
  }

  /** The task has just been made. */
  begin(): void {
    this.#lookAgain('made');
    this.#leave();
  }

  /** The end of a day of the owner's; without one of their next working day. */
  endOf(day: number | null): Minute {
    let end = day ?? this.dayOf(this.owner, this.now) + 1;
    while (day === null && !this.#works(this.owner, end)) end++;
    return this.#at(this.owner, end + 1, 0);
  }

  /** Goes on to a minute, which is gone through too. */
  goTo(minute: Minute): void {
    let rings = this.#levelRings();
    while (this.now < minute) {
      this.now++;
      // What was acknowledged runs out: the task is looked at again.
      if (this.#said.some(({ until }) => until === this.now)) {
        this.#lookAgain();
        rings = this.#levelRings();
      }
      for (const ring of rings) if (ring.at === this.now) this.#ringLevel(ring);
      if (this.now % DAY === 8 * 60) this.#occurrence();
      this.#leave();
    }
  }

  /** Somebody does something to it in this minute, after what rang in it. */
  do(act: Act): void {
    switch (act.act) {
      case 'comment':
        this.#comment();
        break;
      case 'owner':
        if (act.to === this.owner) return;
        this.owner = act.to;
        this.#assignedAt = this.now;
        break;
      case 'due':
        if (act.day === this.due) return;
        this.due = act.day;
        this.#dueSince = this.now;
        break;
      case 'stuck':
        if (act.is === this.#isStuck()) return;
        if (act.is) this.#stuck.push({ from: this.now, until: Infinity });
        else this.#stuck.at(-1)!.until = this.now;
        break;
      case 'acknowledge':
        this.#said.push({ from: this.now, until: act.until, due: this.due });
        break;
      case 'hush':
        this.#hushes.push({ of: act.of, who: act.who, from: this.now, until: act.until });
        break;
      case 'no reminder':
        if (!this.#setSilence(act.who, act.wants)) return;
    }
    this.#lookAgain(act.act === 'due' ? 'moved' : null);
    this.#leave();
  }

  /** @returns whether anything is changed */
  #setSilence(who: string, wants: boolean): boolean {
    const open = this.#silences.find((one) => one.who === who && one.until === Infinity);
    if (wants === !open) return false;
    if (!open) this.#silences.push({ who, from: this.now, until: Infinity });
    else if (open.from === this.now) this.#silences.splice(this.#silences.indexOf(open), 1);
    else open.until = this.now;
    return true;
  }

  // —— people and their hours

  #person(name: string): Person {
    return this.#people.get(name)!;
  }

  dayOf(name: string, minute: Minute): number {
    return Math.floor((minute + this.#person(name).offset) / DAY);
  }

  #at(name: string, day: number, minute: Minute): Minute {
    return day * DAY + minute - this.#person(name).offset;
  }

  #works(name: string, day: number): boolean {
    return this.#person(name).weekdays.includes((((day + 4) % 7) + 7) % 7);
  }

  /** Whether the minute that begins then is working time. */
  #isOpen(name: string, minute: Minute): boolean {
    const { offset, open, close } = this.#person(name);
    const local = (((minute + offset) % DAY) + DAY) % DAY;
    return this.#works(name, this.dayOf(name, minute)) && local >= open && local < close;
  }

  /** The minute of closing is still in reach. */
  #inReach(name: string, minute: Minute): boolean {
    return this.#isOpen(name, minute) || this.#isOpen(name, minute - 1);
  }

  #opening(name: string, after: Minute): Minute {
    let at = after + 1;
    while (!this.#isOpen(name, at) || this.#isOpen(name, at - 1)) at++;
    return at;
  }

  #told(): Map<string, ('owner' | 'above')[]> {
    const above = this.#person(this.owner).manager;
    const told = new Map<string, ('owner' | 'above')[]>([[this.owner, ['owner']]]);
    if (above !== null) told.set(above, ['above']);
    return told;
  }

  /** Levels before the date are told to the owner, as is the first after it; the others to whoever stands above too. */
  #toldBy(rule: RuleName, level: number): Map<string, ('owner' | 'above')[]> {
    const told = this.#told();
    const ofLevel = this.#levels[level];
    if (rule === 'ladder' && (ofLevel?.before !== undefined || ofLevel?.hours === 0))
      for (const name of [...told.keys()]) if (name !== this.owner) told.delete(name);
    return told;
  }

  // —— quiet

  #isQuiet(rule: RuleName, who: string, at: Minute): boolean {
    const holds = ({ from, until }: Span) => from <= at && at < until;
    return (
      this.#silences.some((one) => one.who === who && holds(one)) ||
      this.#hushes.some(
        (one) =>
          holds(one) && (one.of === 'task' || one.of === rule || (one.of === 'person' && one.who === who))
      )
    );
  }

  #isStuck(): boolean {
    return this.#stuck.at(-1)?.until === Infinity;
  }

  /** What was said of it since it came to its owner, about this date: each until its end or the next. */
  #acknowledged(): Span[] {
    const said = this.#said.filter(({ from, due }) => due === this.due && from >= this.#assignedAt);
    return said.map(({ from, until }, i) => ({
      from,
      until: Math.min(until, said[i + 1]?.from ?? Infinity)
    }));
  }

  #wakes(): Minute[] {
    const said = this.#said.filter(({ from, due }) => due === this.due && from >= this.#assignedAt);
    return said.filter(({ until }, i) => (said[i + 1]?.from ?? Infinity) > until).map(({ until }) => until);
  }

  /** Why the ladder stands still in this minute. */
  #still(): 'acknowledged' | 'stuck' | null {
    if (this.#acknowledged().some(({ from, until }) => from <= this.now && this.now < until))
      return 'acknowledged';
    return this.#isStuck() ? 'stuck' : null;
  }

  // —— the ladder

  #stops(): Span[] {
    return join([...this.#acknowledged(), ...this.#stuck]);
  }

  #pauses(): Span[] {
    const hushed = this.#hushes.filter(
      ({ of, who }) => of === 'task' || of === 'ladder' || (of === 'person' && who === this.owner)
    );
    return join([...this.#acknowledged(), ...this.#stuck, ...hushed]);
  }

  #dueMoment(): Minute {
    return this.#at(this.owner, this.due + 1, 0);
  }

  /** When each level rings, as things stand. */
  #levelRings(): LevelRing[] {
    const pauses = this.#pauses();
    const starts = Math.max(this.#dueMoment(), this.#begun, this.#dueSince, this.#assignedAt);
    const isPaused = (at: Minute) =>
      pauses.some(({ from, until }) => (from < at || (from <= at && from <= starts)) && at < until);
    const plain: LevelRing[] = [];
    this.#levels.forEach((one, level) => {
      if (one.before !== undefined) return;
      if (one.hours !== undefined) {
        const at = this.#afterHours(starts, one.hours * 60, pauses);
        if (at !== null) plain.push({ level, repeat: 0, at, origin: this.dayOf(this.owner, at) });
      } else plain.push(...this.#onDays(level, one, starts, isPaused));
    });
    const woken = this.#woken(plain, starts, pauses);
    const before = this.#levelsBefore();
    return [
      ...before.map(({ level, at }) => ({ level, repeat: 0, at, origin: this.dayOf(this.owner, at) })),
      ...plain.map((ring) => this.#inOrder(ring, woken, [...woken, ...before]))
    ];
  }

  /** One that would come before a lower level comes right after that. */
  #inOrder(ring: LevelRing, all: readonly LevelRing[], lower: readonly LevelRing[]): LevelRing {
    const own = all.find(({ level, repeat }) => level === ring.level && repeat === ring.repeat)!;
    let at = own.at;
    for (const one of lower) if (one.level < ring.level && one.repeat === 0) at = Math.max(at, one.at);
    if (at === own.at) return own;
    return { ...ring, at, origin: this.dayOf(this.owner, at) };
  }

  /** A minute of work at a time, but none in a pause. */
  #afterHours(starts: Minute, minutes: number, pauses: readonly Span[]): Minute | null {
    let left = minutes;
    for (let at = starts; at < starts + 120 * DAY; at++) {
      const pause = pauses.find(({ from, until }) => from <= at && at < until);
      const begins = pause?.from === at && at > starts;
      // It had come to its end as the pause began.
      if (left === 0 && minutes > 0 && begins && this.#isOpen(this.owner, at - 1)) return at;
      if (left === 0 && minutes > 0 && !pause && at > starts && this.#isOpen(this.owner, at - 1)) return at;
      if (left === 0 && begins && this.#isOpen(this.owner, at)) return at;
      if (pause?.until === Infinity) return null;
      if (pause || !this.#isOpen(this.owner, at)) continue;
      if (left === 0) return at;
      left--;
    }
    return null;
  }

  #onDays(level: number, { days, most = 1 }: Level, starts: Minute, isPaused: (at: Minute) => boolean) {
    const found: LevelRing[] = [];
    const dueAt = this.#dueMoment();
    let day = starts === dueAt ? this.due : this.dayOf(this.owner, starts);
    let counted = 0;
    // As many as there may be: those that come to one moment leave as one, and use up one.
    for (let looked = 0; looked < 90 && found.length < (most === 1 ? 1 : 30); looked++) {
      day++;
      const at = this.#at(this.owner, day, 600);
      if (at < starts || isPaused(at)) continue;
      counted++;
      if (counted < days!) continue;
      let rolled = day;
      const isNot = () => !this.#works(this.owner, rolled) || isPaused(this.#at(this.owner, rolled, 600));
      for (let i = 0; i < 90 && isNot(); i++) rolled++;
      if (isNot()) break;
      found.push({ level, repeat: counted - days!, at: this.#at(this.owner, rolled, 600), origin: day });
    }
    return found;
  }

  /** The first that would come after an acknowledgement has run out comes at the next opening instead. */
  #woken(plain: readonly LevelRing[], starts: Minute, pauses: readonly Span[]): LevelRing[] {
    const rings = plain.map((ring) => ({ ...ring }));
    const done = new Set<LevelRing>();
    for (const wake of this.#wakes()) {
      if (wake < starts) continue;
      let at = wake;
      const isPaused = () => pauses.some(({ from, until }) => from <= at && at < until);
      for (let i = 0; i < 120 * DAY && (isPaused() || !this.#isOpen(this.owner, at)); i++) at++;
      if (pauses.some(({ from, until }) => until === Infinity && from <= at)) continue;
      let lowest = -Infinity;
      for (const ring of rings) {
        const stands = Math.max(ring.at, lowest);
        if (ring.repeat === 0) lowest = stands;
        if (stands < wake || done.has(ring)) continue;
        if (stands > at) {
          ring.at = at;
          ring.origin = this.dayOf(this.owner, at);
          done.add(ring);
        }
        break;
      }
    }
    return rings;
  }

  /** Levels before the date: on their day, or caught up at the first opening after a pause that ends before the date. */
  #levelsBefore(): LevelRing[] {
    const found: LevelRing[] = [];
    const stops = this.#stops();
    const own = (level: number) => this.#at(this.owner, this.due - this.#levels[level]!.before!, 540);
    const all = this.#levels.flatMap(({ before }, level) => (before === undefined ? [] : level));
    for (const level of all) {
      let at = own(level);
      const pause = stops.find(({ from, until }) => from < at && at < until);
      const isQuiet = this.#hushes.some(
        ({ of, who, from, until }) =>
          (of === 'task' || of === 'ladder' || (of === 'person' && who === this.owner)) &&
          from <= at &&
          at < until
      );
      const isLatest = pause && !all.some((other) => own(other) > at && own(other) < pause.until);
      if (pause && !isQuiet && isLatest && pause.until < this.#dueMoment())
        at = this.#opening(this.owner, pause.until - 1);
      found.push({ level, repeat: 0, at, origin: this.dayOf(this.owner, at) });
    }
    return found;
  }

  #ringLevel({ level, repeat, at, origin }: LevelRing): void {
    const { before, most = 1 } = this.#levels[level]!;
    const isStill = this.#stops().some(({ from, until }) => from < at && at < until);
    const ring = `${level}/${repeat}/${this.due}`;
    for (const [who, as] of this.#toldBy('ladder', level)) {
      const of = { rule: 'ladder' as const, ring, level, repeat, who, as, ringAt: at, origin };
      if (this.#occupied(of.rule, ring, who)) continue;
      if (this.#leftTo(level, who) >= most) continue;
      if (isStill && before === undefined) continue;
      if (isStill) this.#tellings.push({ ...of, leaves: null, state: 'over' });
      else this.#tell(of);
    }
  }

  #leftTo(level: number, who: string): number {
    return this.#tellings.filter(
      (one) =>
        one.rule === 'ladder' &&
        one.level === level &&
        one.who === who &&
        one.state === 'left' &&
        one.ring.endsWith(`/${this.due}`)
    ).length;
  }

  // —— the schedule and the event

  #occurrence(): void {
    if (
      this.#hushes.some(
        ({ of, from, until }) => (of === 'task' || of === 'schedule') && from <= this.now && this.now < until
      )
    )
      return;
    const ring = this.#oncePerDate ? `due ${this.due}` : `on ${this.now}`;
    this.#tellAll('schedule', ring);
  }

  #comment(): void {
    if (
      this.#hushes.some(
        ({ of, from, until }) => (of === 'task' || of === 'event') && from <= this.now && this.now < until
      )
    )
      return;
    this.#tellAll('event', `comment ${this.#comments++}`);
  }

  #tellAll(rule: RuleName, ring: string): void {
    for (const [who, as] of this.#told())
      if (!this.#occupied(rule, ring, who))
        this.#tell({
          rule,
          ring,
          level: 0,
          repeat: 0,
          who,
          as,
          ringAt: this.now,
          origin: this.dayOf(this.owner, this.now)
        });
  }

  // —— telling, waiting, leaving

  #occupied(rule: RuleName, ring: string, who: string): boolean {
    return this.#of(rule, ring, who).some(({ state }) => ['waits', 'left', 'same moment'].includes(state));
  }

  #of(rule: RuleName, ring: string, who: string): Telling[] {
    return this.#tellings.filter((one) => one.rule === rule && one.ring === ring && one.who === who);
  }

  /** Whether somebody is not told afterwards: they were, or wanted quiet. */
  #isDone(rule: RuleName, ring: string, who: string): boolean {
    return this.#of(rule, ring, who).some(({ state }) => state !== 'passed on');
  }

  #tell(of: Omit<Telling, 'leaves' | 'state'>): void {
    if (this.#isQuiet(of.rule, of.who, of.ringAt)) {
      this.#tellings.push({ ...of, leaves: null, state: 'quiet' });
      return;
    }
    let leaves = of.ringAt;
    while (!this.#inReach(of.who, leaves)) leaves++;
    this.#tellings.push({ ...of, leaves, state: 'waits' });
  }

  /** Owed afterwards: now in reach, else at the next opening. */
  #makeUp(of: Omit<Telling, 'leaves' | 'state'>): void {
    const isQuiet = [of.ringAt, this.now].some((at) => this.#isQuiet(of.rule, of.who, at));
    const leaves = this.#inReach(of.who, this.now) ? this.now : this.#opening(of.who, this.now);
    this.#tellings.push({ ...of, leaves, state: isQuiet ? 'quiet' : 'waits' });
  }

  /** What waits is looked at again, and what has passed is made up for, whenever the task changes. */
  #lookAgain(why: 'made' | 'moved' | null = null): void {
    const instead: Telling[] = [];
    for (const one of this.#tellings.filter(({ state }) => state === 'waits')) {
      const told = this.#toldBy(one.rule, one.level).get(one.who);
      if (this.#isQuiet(one.rule, one.who, this.now)) one.state = 'quiet';
      else if (one.rule === 'ladder' && !one.ring.endsWith(`/${this.due}`)) one.state = 'passed on';
      else if (one.rule === 'ladder' && this.#still() === 'acknowledged') one.state = 'quiet';
      else {
        if (one.rule !== 'ladder' && one.as.some((role) => !told?.includes(role))) instead.push(one);
        if (!told) one.state = 'passed on';
        else if (one.rule === 'ladder' && this.#still() === 'stuck') one.leaves = null;
        else if (one.leaves === null) one.leaves = this.#opening(one.who, this.now);
      }
    }
    for (const one of instead) this.#tellInstead(one);
    this.#catchUp(why);
  }

  #tellInstead(gone: Telling): void {
    const now = this.#told();
    const lost = gone.as.filter((role) => !now.get(gone.who)?.includes(role));
    for (const [who, as] of now) {
      if (!as.some((role) => lost.includes(role)) || this.#isDone(gone.rule, gone.ring, who)) continue;
      this.#makeUp({ ...gone, who, as });
    }
  }

  /** Of the levels that have passed the latest is made up for, to each whom a Tell tells, where it is owed. */
  #catchUp(why: 'made' | 'moved' | null): void {
    for (const role of ['owner', 'above'] as const) {
      const who = [...this.#told()].find(([, as]) => as.includes(role))?.[0];
      if (who !== undefined) this.#catchUpFor(role, who, why);
    }
  }

  #catchUpFor(role: 'owner' | 'above', who: string, why: 'made' | 'moved' | null): void {
    const rings = this.#levelRings();
    const owed: (Omit<Telling, 'leaves' | 'state'> & { wasRung: boolean })[] = [];
    this.#levels.forEach(({ most = 1, before }, level) => {
      if (this.#toldBy('ladder', level).get(who)?.includes(role) !== true) return;
      if (this.#leftTo(level, who) >= most) return;
      const last = rings.filter((one) => one.level === level && one.at <= this.now).at(-1);
      const ring = `${level}/${last?.repeat}/${this.due}`;
      if (!last || this.#isDone('ladder', ring, who)) return;
      const wasRung = this.#tellings.some((one) => one.rule === 'ladder' && one.ring === ring);
      if (why === null && !wasRung && last.at < this.#begun) return;
      const { repeat, at: ringAt, origin } = last;
      const of = { rule: 'ladder' as const, ring, level, repeat, who, as: [role], ringAt, origin, wasRung };
      if (this.#still() !== null) {
        if (before !== undefined) this.#tellings.push({ ...of, leaves: null, state: 'over' });
        return;
      }
      const later = rings.filter((one) => this.#levels[one.level]!.before === undefined && one.at > ringAt);
      const next = Math.min(...later.map(({ at }) => at), later.length > 0 ? Infinity : ringAt + DAY);
      if (this.now < (before === undefined ? next : this.#dueMoment())) owed.push(of);
    });
    owed.sort((a, b) => a.ringAt - b.ringAt || a.origin - b.origin || a.level - b.level);
    const latest = owed.pop();
    if (!latest) return;
    for (const one of owed) this.#tellings.push({ ...one, leaves: null, state: 'over' });
    const isQuiet = [latest.ringAt, this.now].some((at) => this.#isQuiet('ladder', who, at));
    const isSameDay = this.dayOf(this.owner, latest.ringAt) === this.dayOf(this.owner, this.now);
    // Never to whoever moved it; and what only came true is told until the end of that day.
    const isOver =
      why === null ? !latest.wasRung && !isSameDay : why === 'moved' && who === this.#coordinator;
    if (isOver && !isQuiet) this.#tellings.push({ ...latest, leaves: null, state: 'over' });
    else this.#makeUp(latest);
  }

  #leave(): void {
    const leaving = this.#tellings.filter(({ state, leaves }) => state === 'waits' && leaves === this.now);
    for (const one of leaving) {
      const better = leaving.some(
        (other) =>
          other !== one &&
          other.rule === one.rule &&
          other.who === one.who &&
          (other.origin - one.origin || other.repeat - one.repeat || other.level - one.level || 0) > 0
      );
      const most = this.#levels[one.level]?.most ?? 1;
      if (better) one.state = 'same moment';
      else if (one.rule === 'ladder' && this.#leftTo(one.level, one.who) >= most) one.state = 'over';
      else one.state = 'left';
    }
  }
}

function join(spans: readonly Span[]): Span[] {
  const out: Span[] = [];
  for (const span of spans.filter(({ from, until }) => until > from).sort((a, b) => a.from - b.from)) {
    const last = out.at(-1);
    if (last && span.from <= last.until) last.until = Math.max(last.until, span.until);
    else out.push({ ...span });
  }
  return out;
}
