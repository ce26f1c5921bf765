/**
 * What a ladder, a schedule and an event tell about one task, as plainly as it can be written: it goes through time minute by minute, keeps
 * what rang in a list, and knows of calendars only whether a minute is open. Only for tests: zones without a move of their clocks, and
 * nothing but what the property test beside it does. It shares no code with the application.
 *
 * Its rules are those that the documents state: docs/ladders.md (pauses, levels before the date, who hears), docs/rules.md (quiet, new
 * owners), docs/timing.md (holds and openings).
 */
import type { Act, RuleName, Telling } from './plain-acts.ts';
import { PlainLadder, join, type Level, type LevelRing, type Span } from './plain-ladder.ts';
import { DAY, PlainPeople, type Minute, type Person } from './plain-people.ts';

/** One task of a team, and what is told about it. */
export class PlainTeam {
  readonly #people: PlainPeople;
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
    this.#people = new PlainPeople(people);
    this.#levels = levels;
    this.#coordinator = of.coordinator;
    this.#oncePerDate = of.oncePerDate;
    ({ owner: this.owner, due: this.due, now: this.now } = of);
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

  /** The day of the owner's in this minute. */
  get today(): number {
    return this.#people.dayOf(this.owner, this.now);
  }

  /** The task has just been made. */
  begin(): void {
    this.#lookAgain('made');
    this.#leave();
  }

  /** The end of a day of the owner's; without one of their next working day. */
  endOf(day: number | null): Minute {
    let end = day ?? this.#people.dayOf(this.owner, this.now) + 1;
    while (day === null && !this.#people.works(this.owner, end)) end++;
    return this.#people.at(this.owner, end + 1, 0);
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

  #told(): Map<string, ('owner' | 'above')[]> {
    const above = this.#people.of(this.owner).manager;
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

  #pauses(): Span[] {
    return join([...this.#acknowledged(), ...this.#stuck, ...this.#hushedFor(this.owner)]);
  }

  #dueMoment(): Minute {
    return this.#people.at(this.owner, this.due + 1, 0);
  }

  #levelRings(): LevelRing[] {
    const { owner, due } = this;
    return new PlainLadder({
      ...{ people: this.#people, levels: this.#levels, owner, due, dueAt: this.#dueMoment() },
      starts: Math.max(this.#dueMoment(), this.#begun, this.#dueSince, this.#assignedAt),
      ...{
        pauses: this.#pauses(),
        stops: join([...this.#acknowledged(), ...this.#stuck]),
        wakes: this.#wakes()
      },
      isQuiet: (at) => this.#hushedFor(owner).some(({ from, until }) => from <= at && at < until)
    }).rings();
  }

  #hushedFor(name: string): Span[] {
    return this.#hushes.filter(
      ({ of, who }) => of === 'task' || of === 'ladder' || (of === 'person' && who === name)
    );
  }

  #ringLevel({ level, repeat, at, origin }: LevelRing): void {
    const { before, most = 1 } = this.#levels[level]!;
    const isStill = join([...this.#acknowledged(), ...this.#stuck]).some(
      ({ from, until }) => from < at && at < until
    );
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
          origin: this.#people.dayOf(this.owner, this.now)
        });
  }

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
    while (!this.#people.inReach(of.who, leaves)) leaves++;
    this.#tellings.push({ ...of, leaves, state: 'waits' });
  }

  /** Owed afterwards: now in reach, else at the next opening. */
  #makeUp(of: Omit<Telling, 'leaves' | 'state'>): void {
    const isQuiet = [of.ringAt, this.now].some((at) => this.#isQuiet(of.rule, of.who, at));
    const leaves = this.#people.inReach(of.who, this.now) ? this.now : this.#people.opening(of.who, this.now);
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
        else if (one.leaves === null) one.leaves = this.#people.opening(one.who, this.now);
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
    const isSameDay =
      this.#people.dayOf(this.owner, latest.ringAt) === this.#people.dayOf(this.owner, this.now);
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
