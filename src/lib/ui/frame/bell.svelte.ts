import type { BehindBellView } from '$lib/view/behind-bell.ts';

/** How the frame asks for what stands behind the bell; the frame knows the addresses, this does not. */
export interface BellSource {
  read(): Promise<BehindBellView | null>;
  /** @param id null for all of them */
  see(id: number | null): Promise<BehindBellView | null>;
}

const SOUND_KEY = 'early-bell:sound';

/** What stands behind the bell of whoever is signed in, and how an open page says that something new does. */
export class Bell {
  readonly #source: BellSource;
  /** Null until it was asked for. */
  view = $state.raw<BehindBellView | null>(null);
  sound = $state(false);
  /** What the browser lets a page do: `unasked` until somebody was asked, `none` where it cannot. */
  permission = $state<'unasked' | 'granted' | 'denied' | 'none'>('none');

  constructor(source: BellSource) {
    this.#source = source;
  }

  /** In the browser only: what was chosen on this machine. */
  start(): void {
    this.sound = localStorage.getItem(SOUND_KEY) === 'on';
    this.permission = permissionNow();
  }

  async open(): Promise<void> {
    this.view = (await this.#source.read()) ?? this.view;
  }

  async see(id: number | null): Promise<void> {
    this.view = (await this.#source.see(id)) ?? this.view;
  }

  /** Something new stands behind it: the page rings, and the browser says what, where it may. */
  async rang(): Promise<void> {
    const all = () => [...(this.view?.tasks ?? []), ...(this.view?.rest ?? [])];
    const last = this.view === null ? 0 : Math.max(0, ...all().map(({ id }) => id));
    await this.open();
    const fresh = all().filter(({ id, isNew }) => isNew && id > last);
    const [latest] = fresh.sort((a, b) => b.id - a.id);
    if (!latest) return;
    if (this.sound) strike();
    if (this.permission !== 'granted') return;
    const more = fresh.length > 1 ? ` (and ${fresh.length - 1} more)` : '';
    const shown = new Notification(`${latest.subject}${more}`, { tag: 'early-bell' });
    shown.onclick = () => {
      window.focus();
      if (latest.href) window.location.assign(latest.href);
      shown.close();
    };
  }

  /** Asks the browser whether pages may say something while another window is in front. */
  async ask(): Promise<void> {
    await Notification.requestPermission();
    this.permission = permissionNow();
  }

  setSound(on: boolean): void {
    this.sound = on;
    localStorage.setItem(SOUND_KEY, on ? 'on' : 'off');
    if (on) strike();
  }
}

function permissionNow(): Bell['permission'] {
  if (typeof Notification === 'undefined') return 'none';
  return Notification.permission === 'default' ? 'unasked' : Notification.permission;
}

/** One stroke of a small bell: a struck tone and two of its partials, each fading faster than the one below. */
function strike(): void {
  const audio = new AudioContext();
  for (const [ratio, loud, seconds] of [
    [1, 0.2, 1.6],
    [2.4, 0.1, 0.9],
    [4.1, 0.05, 0.4]
  ] as const) {
    const tone = audio.createOscillator();
    const fade = audio.createGain();
    tone.frequency.value = 740 * ratio;
    fade.gain.setValueAtTime(loud, audio.currentTime);
    fade.gain.exponentialRampToValueAtTime(0.0001, audio.currentTime + seconds);
    tone.connect(fade).connect(audio.destination);
    tone.start();
    tone.stop(audio.currentTime + seconds);
  }
  setTimeout(() => void audio.close(), 2_000);
}
