"""Makes tests/reference/fixtures/desk.json: /usr/bin/python3 scripts/references/desk.py

2,000 placements on a Desk in 30 zones, each with the instant of its next change. Written from the words of the law alone and without any of
its shortcuts: every later day is looked at until the place is another one, and the first instant of a day is found minute by minute.
Needs Python's zoneinfo and Debian's tzdata; the file names the versions that made it.
"""
import json
import random
import subprocess
import sys
from datetime import date, datetime, time, timedelta, timezone
from functools import lru_cache
from pathlib import Path
from zoneinfo import ZoneInfo

FILE = Path(__file__).resolve().parents[2] / 'tests' / 'reference' / 'fixtures' / 'desk.json'
ZONES = """Europe/Lisbon Europe/London Europe/Paris Europe/Istanbul Atlantic/Azores Africa/Cairo Africa/Lagos Africa/Johannesburg
America/Halifax America/St_Johns America/New_York America/Chicago America/Denver America/Phoenix America/Los_Angeles
America/Anchorage America/Sao_Paulo America/Santiago America/Havana Asia/Muscat Asia/Kolkata Asia/Kathmandu Asia/Jerusalem
Asia/Beirut Asia/Tokyo Australia/Hobart Australia/Lord_Howe Pacific/Auckland Pacific/Chatham Pacific/Honolulu""".split()
# Open weekdays from Monday on.
MASKS = ['1111100', '1111100', '1111001', '1111110', '0111110', '1110000', '1010100', '1111111', '0000000', '1001001']
DAY = timedelta(days=1)
UTC = timezone.utc


@lru_cache(maxsize=None)
def first_instant(day, zone_name):
    """The earliest minute whose local date is the day, or the one after it where the zone has no such day."""
    zone = ZoneInfo(zone_name)
    at = datetime.combine(day, time(), UTC) - timedelta(hours=15)
    while at.astimezone(zone).date() < day:
        at += timedelta(minutes=1)
    return at


def today_at(at, zone):
    day = at.astimezone(ZoneInfo(zone)).date()
    while first_instant(day + DAY, zone) <= at:
        day += DAY
    return day


@lru_cache(maxsize=None)
def first_weekday(mask):
    """The first working weekday after the longest run of closed ones; of equal runs the one with Sunday, else the later. No closed day, or no
    open one: Monday."""
    if mask in ('1111111', '0000000'):
        return 0
    runs = []
    for begins in range(7):
        if mask[begins] == '0' and mask[begins - 1] == '1':
            days = [begins]
            while mask[(days[-1] + 1) % 7] == '0':
                days.append((days[-1] + 1) % 7)
            runs.append((len(days), 6 in days, begins, (days[-1] + 1) % 7))
    return max(runs)[3]


def spans(today, mask):
    """The dates of the rest of the week and of the week after."""
    rest, day = [], today + DAY
    while day.weekday() != first_weekday(mask):
        rest.append(day)
        day += DAY
    return rest, [day + n * DAY for n in range(7)]


def span_of(day, today, mask):
    if day <= today:
        return 'today'
    rest, after = spans(today, mask)
    return 'rest' if day in rest else 'after' if day in after else 'further'


def planned_days(to, moved, mask):
    """The first and the last date for which something is planned; None for the last of what has no end."""
    rest, after = spans(moved, mask)
    if to == 'further':
        return after[-1] + DAY, None
    if to not in ('rest', 'after'):
        return date.fromisoformat(to), date.fromisoformat(to)
    days = rest if to == 'rest' else after
    working = [day for day in days if mask[day.weekday()] == '1']
    return days[0], (working or days)[-1]


def place(case, dates, today, moved):
    status = case.get('status', 'open')
    if status == 'closed':
        return 'none'
    if status == 'finished':
        return 'finished'
    if status == 'parked':
        return 'to-place' if date.fromisoformat(case['reviewOn']) <= today else 'parked'
    if not case.get('placed', True):
        return 'to-place'
    if dates and min(dates) <= today:
        return 'today'
    to = case.get('movedTo')
    if to == 'today':
        return 'today'
    if to:
        first, last = planned_days(to, moved, case['mask'])
        if last and today > last:
            return 'to-place'
        if today == last:
            return 'today'
        return span_of(max(today + DAY, first), today, case['mask'])
    return span_of(min(dates), today, case['mask']) if dates else 'undated'


def moment_day(text, anchor_zone, zone):
    if 'T' not in text:
        return date.fromisoformat(text)
    local = datetime.fromisoformat(text).replace(tzinfo=ZoneInfo(anchor_zone), fold=0)
    return local.astimezone(UTC).astimezone(ZoneInfo(zone)).date()


def answered(case):
    zone, at = case['zone'], datetime.fromisoformat(case['at'].replace('Z', '+00:00'))
    dates = [moment_day(case[of], case['anchorZone'], zone) for of in ('start', 'due') if of in case]
    moved = today_at(datetime.fromisoformat(case['movedAt'].replace('Z', '+00:00')), zone) if 'movedTo' in case else None
    today = today_at(at, zone)
    now = place(case, dates, today, moved)
    day = today
    for _ in range(800):
        day += DAY
        begins = first_instant(day, zone)
        if place(case, dates, today_at(begins, zone), moved) != now:
            return now, begins.strftime('%Y-%m-%dT%H:%M:%SZ')
    return now, None


def drawn(chance, n):
    zone = ZONES[n % len(ZONES)]
    at = datetime(2025, 1, 1, tzinfo=UTC) + timedelta(minutes=chance.randrange(2 * 365 * 1440))
    if chance.random() < 0.3:
        # Within minutes of a beginning day.
        at = first_instant(at.date(), zone) + timedelta(minutes=chance.choice([-1, 0, 1]))
    case = {'zone': zone, 'anchorZone': chance.choice(ZONES), 'mask': chance.choice(MASKS), 'at': at.strftime('%Y-%m-%dT%H:%M:%SZ')}
    today = today_at(at, zone)
    for of, share in (('start', 0.3), ('due', 0.7)):
        if chance.random() < share:
            day = (today + chance.choice([1, 1, 1, 4]) * timedelta(days=chance.randrange(-5, 25))).isoformat()
            case[of] = f'{day}T{chance.randrange(24):02}:{chance.choice(["00", "30"])}' if chance.random() < 0.3 else day
    drawn_of = chance.random()
    if drawn_of < 0.03:
        case['status'] = 'finished'
    elif drawn_of < 0.06:
        case['status'] = 'closed'
    elif drawn_of < 0.12:
        case |= {'status': 'parked', 'reviewOn': (today + timedelta(days=chance.randrange(-10, 30))).isoformat()}
    elif drawn_of < 0.2:
        case['placed'] = False
    elif drawn_of < 0.7:
        moved = at - timedelta(minutes=chance.randrange(20 * 1440))
        moved_day = today_at(moved, zone)
        to = chance.choice(['today', 'rest', 'after', 'after', 'further', 'date'])
        if to == 'rest' and not spans(moved_day, case['mask'])[0]:
            to = 'after'
        if to == 'date':
            to = (moved_day + timedelta(days=chance.randrange(0, 30))).isoformat()
        case |= {'movedTo': to, 'movedAt': moved.strftime('%Y-%m-%dT%H:%M:%SZ')}
    return case


def main():
    chance = random.Random(9)
    cases = []
    for n in range(2000):
        case = drawn(chance, n)
        now, changes = answered(case)
        written = {key: value for key, value in case.items() if key != 'mask'}
        cases.append([written, case['mask'], now, changes])
    shown = subprocess.run(['dpkg-query', '-W', '-f', '${Version}', 'tzdata'], capture_output=True, text=True)
    content = {'python': sys.version.split()[0], 'tzdata': shown.stdout.strip() or 'unknown', 'cases': cases}
    FILE.write_text(json.dumps(content, separators=(',', ':')) + '\n')
    print({name: sum(1 for case in cases if case[2] == name) for name in sorted({case[2] for case in cases})})


if __name__ == '__main__':
    main()
