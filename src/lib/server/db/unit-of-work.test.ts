import Database from 'better-sqlite3';
import { beforeEach, describe, expect, it } from 'vitest';
import { UnitOfWork } from './unit-of-work.ts';

let db: Database.Database;
let work: UnitOfWork;
let faults: unknown[];
let heard: string[];

beforeEach(() => {
  db = new Database(':memory:');
  db.exec('CREATE TABLE word (text TEXT) STRICT');
  faults = [];
  heard = [];
  work = new UnitOfWork(db, (error) => void faults.push(error));
});

const write = (text: string) => void db.prepare('INSERT INTO word VALUES (?)').run(text);
const written = () => db.prepare('SELECT text FROM word ORDER BY rowid').pluck().all();
const say = (text: string) => work.afterCommit(() => void heard.push(text));
const fail = (): never => {
  throw new Error('no');
};

describe('a unit of work', () => {
  it('is written whole, or not at all', () => {
    work.run(() => {
      write('one');
      write('two');
    });
    expect(() => work.run(() => (write('three'), fail()))).toThrow('no');
    expect(written()).toEqual(['one', 'two']);
    expect(work.isOpen).toBe(false);
  });

  it('takes back a part that fails, and goes on', () => {
    work.run(() => {
      write('one');
      expect(() => work.run(() => (write('two'), fail()))).toThrow('no');
      work.run(() => write('three'));
    });
    expect(written()).toEqual(['one', 'three']);
  });

  it('takes back its parts with it', () => {
    expect(() =>
      work.run(() => {
        work.run(() => write('one'));
        fail();
      })
    ).toThrow('no');
    expect(written()).toEqual([]);
  });

  it('tells others once the outermost is committed, and never of what was taken back', () => {
    work.run(() => {
      work.run(() => say('part'));
      expect(() => work.run(() => (say('gone'), fail()))).toThrow('no');
      say('whole');
      expect(heard).toEqual([]);
    });
    expect(heard).toEqual(['part', 'whole']);
    expect(() => work.run(() => (say('gone too'), fail()))).toThrow('no');
    say('at once');
    expect(heard).toEqual(['part', 'whole', 'at once']);
  });

  it('forgets what is kept of what was taken back, the last first', () => {
    const forget = (text: string) => work.onRollback(() => void heard.push(text));
    work.run(() => forget('stands'));
    expect(() =>
      work.run(() => {
        forget('first');
        work.run(() => forget('part'));
        expect(() => work.run(() => (forget('by itself'), fail()))).toThrow('no');
        fail();
      })
    ).toThrow('no');
    expect(heard).toEqual(['by itself', 'part', 'first']);
  });

  it('lets nobody’s failure keep others from hearing, nor undo what is written', () => {
    work.run(() => {
      write('one');
      work.afterCommit(fail);
      say('heard all the same');
    });
    expect([written(), heard, faults]).toEqual([['one'], ['heard all the same'], [new Error('no')]]);
  });

  it('is not left open while something is waited for', () => {
    expect(() => work.run(() => (write('one'), Promise.resolve()))).toThrow('left open');
    expect(() => work.run(() => (write('one'), Promise.reject(new Error('later'))))).toThrow('left open');
    expect([written(), work.isOpen]).toEqual([[], false]);
  });

  it('that a listener begins is one of its own', () => {
    work.run(() => work.afterCommit(() => work.run(() => (write('after'), say('then')))));
    expect([written(), heard]).toEqual([['after'], ['then']]);
  });
});
