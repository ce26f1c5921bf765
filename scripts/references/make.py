"""Makes the fixture files of tests/reference from independent libraries: /usr/bin/python3 scripts/references/make.py

Needs Debian's python3-numpy, python3-pandas (python3-dateutil comes with it) and tzdata. Each file names the versions that made it.

Where conventions differ they are mapped here, and the core is not bent:
- numpy rolls a date first and then steps. Ours takes the n-th working day strictly after or before: for n > 0 that is
  roll='backward', for n < 0 roll='forward'.
- pandas turns a sum of business hours that ends exactly on closing into the next opening. Ours stays on closing: such sums are
  written down with the closing they came from. Backward sums, n = 0 and overnight shifts are left to the plain walk in the tests.
- zoneinfo reads a time in a gap, fold=0, with the offset before the gap: later by the gap, as ours.
- dateutil and RFC 5545 differ on BYWEEKNO without BYDAY and on BYSETPOS in a partial first period: neither is drawn here.
"""
import json
import random
import subprocess
import sys
from datetime import date, datetime, timedelta, timezone
from pathlib import Path
from zoneinfo import ZoneInfo

import dateutil
import numpy as np
import pandas as pd
from dateutil.rrule import rrulestr
from pandas.tseries.holiday import USFederalHolidayCalendar
from pandas.tseries.offsets import CustomBusinessHour

FOLDER = Path(__file__).resolve().parents[2] / 'tests' / 'reference' / 'fixtures'
PYTHON = sys.version.split()[0]
ZONES = """Europe/Lisbon Europe/London Europe/Paris Europe/Kyiv Europe/Istanbul Europe/Moscow Europe/Chisinau Atlantic/Azores
Africa/Cairo Africa/Casablanca Africa/El_Aaiun Africa/Lagos Africa/Johannesburg America/Halifax America/St_Johns America/New_York
America/Chicago America/Denver America/Phoenix America/Los_Angeles America/Anchorage America/Sao_Paulo America/Santiago
America/Asuncion America/Havana America/Nuuk Asia/Muscat Asia/Kolkata Asia/Kathmandu Asia/Tehran Asia/Jerusalem Asia/Beirut
Asia/Shanghai Asia/Tokyo Australia/Hobart Australia/Adelaide Australia/Lord_Howe Pacific/Auckland Pacific/Chatham Pacific/Apia""".split()


def write(name, content):
    FOLDER.mkdir(parents=True, exist_ok=True)
    (FOLDER / name).write_text(json.dumps(content, separators=(',', ':')) + '\n')
    print(name, sum(len(v) if isinstance(v, (list, dict)) else 0 for v in content.values()))


def tzdata_version():
    shown = subprocess.run(['dpkg-query', '-W', '-f', '${Version}', 'tzdata'], capture_output=True, text=True)
    return shown.stdout.strip() or 'unknown'


def transitions(zone, first_year, last_year):
    """Every change of offset, found hour by hour and narrowed to the minute."""
    at = datetime(first_year, 1, 1, tzinfo=timezone.utc)
    end = datetime(last_year + 1, 1, 1, tzinfo=timezone.utc)
    offset = at.astimezone(zone).utcoffset()
    found = []
    while at < end:
        later = at + timedelta(hours=6)
        if later.astimezone(zone).utcoffset() != offset:
            low, high = at, later
            while high - low > timedelta(minutes=1):
                middle = low + (high - low) / 2
                middle = middle.replace(second=0, microsecond=0)
                if middle in (low, high):
                    break
                if middle.astimezone(zone).utcoffset() == offset:
                    low = middle
                else:
                    high = middle
            found.append(high)
            offset = later.astimezone(zone).utcoffset()
        at = later
    return found


def zoneinfo_fixture():
    """Wall times around every clock change of 40 zones, 2024 to 2030: [local minutes, UTC minutes] since 1970."""
    zones = {}
    for name in ZONES:
        zone = ZoneInfo(name)
        pairs = []
        for change in transitions(zone, 2024, 2030):
            wall = change.astimezone(zone).replace(tzinfo=None)
            for step in range(-150, 151, 30):
                local = wall + timedelta(minutes=step)
                instant = local.replace(tzinfo=zone).timestamp()
                pairs.append([int((local - datetime(1970, 1, 1)).total_seconds() // 60), int(instant // 60)])
        zones[name] = pairs
    write('zoneinfo.json', {'python': PYTHON, 'tzdata': tzdata_version(), 'zones': zones})


def numpy_fixture(chance):
    """Working-day offsets and counts on random calendars: the n-th working day, and working days in [from, to)."""
    calendars = []
    for mask in ['1111100', '1111001', '1111110', '1110000']:
        closed = sorted({date(2025, 1, 1) + timedelta(days=chance.randrange(1400)) for _ in range(30)})
        calendar = np.busdaycalendar(weekmask=mask, holidays=[np.datetime64(day) for day in closed])
        offsets, counts = [], []
        for _ in range(250):
            day = np.datetime64(date(2025, 6, 1) + timedelta(days=chance.randrange(900)))
            n = chance.choice([-1, 1]) * chance.randrange(1, 70)
            roll = 'backward' if n > 0 else 'forward'
            offsets.append([str(day), n, str(np.busday_offset(day, n, roll=roll, busdaycal=calendar))])
            other = day + np.timedelta64(chance.randrange(0, 200))
            counts.append([str(day), str(other), int(np.busday_count(day, other, busdaycal=calendar))])
        calendars.append({'mask': mask, 'closed': [str(day) for day in closed], 'offsets': offsets, 'counts': counts})
    write('numpy.json', {'numpy': np.__version__, 'calendars': calendars})


def pandas_fixture(chance):
    """Forward sums of business hours, and the US federal holidays (5 U.S.C. 6103) with the days on which they are observed."""
    sums = []
    closed = [date(2026, 3, 9), date(2026, 4, 3), date(2026, 5, 25), date(2026, 7, 3)]
    for start, end in [('09:00', '17:00'), ('08:30', '16:15')]:
        for _ in range(250):
            at = datetime(2026, 2, 1) + timedelta(minutes=chance.randrange(180 * 1440))
            hours = chance.randrange(1, 60)
            offset = CustomBusinessHour(n=hours, start=start, end=end, holidays=closed)
            result = pd.Timestamp(at) + offset
            # A sum that ends on closing is shown as the next opening: the closing is the last one before it.
            if result.strftime('%H:%M') == start:
                result = (pd.Timestamp(at) + CustomBusinessHour(n=hours - 1, start=start, end=end, holidays=closed)
                          if hours > 1 else None)
                if result is None:
                    continue
                result = result + pd.Timedelta(hours=1)
            sums.append([start, end, at.isoformat(timespec='minutes'), hours, result.isoformat()[:16]])
    holidays = USFederalHolidayCalendar().holidays('2012-01-01', '2035-12-31')
    write('pandas.json', {
        'pandas': pd.__version__,
        'closed': [day.isoformat() for day in closed],
        'sums': sums,
        'federal': [day.date().isoformat() for day in holidays]
    })


def dateutil_fixture(chance):
    """Expansions of random rules over local time."""
    weekdays = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU']
    cases = []
    for _ in range(400):
        frequency = chance.choice(['YEARLY', 'MONTHLY', 'WEEKLY', 'DAILY', 'HOURLY', 'MINUTELY'])
        parts = [f'FREQ={frequency}', f'INTERVAL={chance.randrange(1, 5)}']
        some = lambda items, most: ','.join(map(str, sorted(chance.sample(items, chance.randrange(1, most + 1)))))
        if chance.random() < 0.4:
            parts.append(f'BYMONTH={some(list(range(1, 13)), 4)}')
        if frequency in ('YEARLY', 'MONTHLY') and chance.random() < 0.5:
            parts.append(f'BYMONTHDAY={some(list(range(-5, 0)) + list(range(1, 32)), 4)}')
        elif frequency == 'MONTHLY' and chance.random() < 0.6:
            parts.append('BYDAY=' + ','.join(f'{chance.choice([-2, -1, 1, 2, 3])}{day}' for day in chance.sample(weekdays, 2)))
        elif chance.random() < 0.5:
            parts.append('BYDAY=' + ','.join(chance.sample(weekdays, chance.randrange(1, 4))))
        if frequency in ('DAILY', 'WEEKLY') and chance.random() < 0.3:
            parts.append(f'BYHOUR={some(list(range(24)), 3)}')
        if chance.random() < 0.3:
            parts.append(f'WKST={chance.choice(weekdays)}')
        start = datetime(2024, 1, 1) + timedelta(minutes=15 * chance.randrange(4 * 24 * 700))
        rule = ';'.join(parts)
        found = []
        for occurrence in rrulestr(rule, dtstart=start):
            if len(found) == 12 or occurrence.year > 2090:
                break
            found.append(occurrence.isoformat()[:16])
        cases.append([rule, start.isoformat()[:16], found])
    write('dateutil.json', {'dateutil': dateutil.__version__, 'cases': cases})


# Clocks: a zone, the weekdays that are open from Monday on, and the dates that are closed.
CLOCKS = [
    ('Europe/Lisbon', '1111100', ['2026-04-03', '2026-10-05']),
    ('America/Halifax', '1111100', ['2026-04-03', '2026-09-07']),
    ('Asia/Muscat', '1111001', ['2026-03-20', '2026-03-22']),
    ('Asia/Kolkata', '1111110', ['2026-03-04', '2026-10-02']),
    ('Australia/Hobart', '1111100', ['2026-03-09', '2026-04-06']),
    ('America/New_York', '1111100', []),
]
SCHEDULES = [
    'FREQ=DAILY', 'FREQ=DAILY;INTERVAL=2', 'FREQ=DAILY;INTERVAL=3', 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR', 'FREQ=WEEKLY;BYDAY=MO',
    'FREQ=WEEKLY;BYDAY=SU', 'FREQ=WEEKLY;BYDAY=SA,SU', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,TH', 'FREQ=MONTHLY;BYMONTHDAY=-1',
    'FREQ=MONTHLY;BYDAY=2SU', 'FREQ=MONTHLY;BYMONTHDAY=1,15', 'FREQ=MONTHLY;BYDAY=-1FR', 'FREQ=YEARLY;BYMONTH=3,11;BYDAY=1SU',
]
TIMES = ['10:00', '02:30', '01:30', '00:00', '23:45']


def ring_instant(local, zone):
    """RFC 5545 section 3.3.5: later by the gap, the first of two."""
    return local.replace(tzinfo=ZoneInfo(zone), fold=0).astimezone(timezone.utc)


def moved(day, closed_day, mask, closed):
    """Closed days one step at a time; None where it is left out."""
    is_open = lambda one: mask[one.weekday()] == '1' and one.isoformat() not in closed
    if closed_day == 'as-is' or is_open(day):
        return day
    if closed_day == 'skip':
        return None
    step = timedelta(days=1 if closed_day == 'later' else -1)
    while not is_open(day):
        day += step
    return day


def rings_on(rule, start, closed_day, clock, until):
    """Each ring with the last of its occurrences: those that meet are one."""
    zone, mask, closed = clock
    rings = []
    for local in rrulestr(rule, dtstart=start):
        if local > until:
            break
        day = moved(local.date(), closed_day, mask, closed)
        if day is None:
            continue
        at = ring_instant(datetime.combine(day, local.time()), zone)
        if rings and at <= rings[-1][0]:
            rings[-1] = (rings[-1][0], local)
        else:
            rings.append((at, local))
    return rings


def minutes_of(instant):
    return int(instant.timestamp()) // 60


def schedules_fixture(chance):
    """Schedules on six clocks over a year with its clock changes, and what somebody hears who changes from one clock to another."""
    cases, moves = [], []
    until = datetime(2027, 2, 1)
    for n in range(40):
        rule = SCHEDULES[n % len(SCHEDULES)]
        start = datetime.fromisoformat(f'2026-02-{chance.randrange(1, 20):02}T{TIMES[(n // 2) % len(TIMES)]}')
        closed_day = ['skip', 'later', 'as-is', 'earlier'][n % 4]
        on = [rings_on(rule, start, closed_day, clock, until) for clock in CLOCKS]
        end = datetime(2026, 12, 20, tzinfo=timezone.utc)
        cases.append({
            'rule': rule, 'start': start.isoformat()[:16], 'closedDay': closed_day,
            'rings': [[[minutes_of(at), local.isoformat()[:16]] for at, local in rings if at < end][:30] for rings in on],
        })
        for _ in range(6):
            a, b = chance.sample(range(len(CLOCKS)), 2)
            at = datetime(2026, 3, 1, tzinfo=timezone.utc) + timedelta(minutes=chance.randrange(60 * 24 * 60))
            before = [ring for ring in on[a] if ring[0] <= at]
            heard, told = [minutes_of(ring) for ring, _ in before], {local for _, local in before}
            passed = [ring for ring in on[b] if ring[0] <= at]
            if passed and (not before or passed[-1][1] > before[-1][1]) and passed[-1][1] not in told:
                heard.append(minutes_of(at))
                told.add(passed[-1][1])
            heard += [minutes_of(ring) for ring, local in on[b] if at < ring < end and local not in told]
            moves.append({'case': n, 'from': a, 'to': b, 'at': minutes_of(at), 'heard': heard[max(0, len(before) - 3):len(before) + 8]})
    clocks = [{'zone': zone, 'mask': mask, 'closed': closed} for zone, mask, closed in CLOCKS]
    write('schedules.json', {
        'dateutil': dateutil.__version__, 'python': PYTHON, 'tzdata': tzdata_version(), 'clocks': clocks, 'cases': cases, 'moves': moves
    })


if __name__ == '__main__':
    zoneinfo_fixture()
    numpy_fixture(random.Random(1))
    pandas_fixture(random.Random(2))
    dateutil_fixture(random.Random(3))
    schedules_fixture(random.Random(4))
