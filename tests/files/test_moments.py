"""A year that was written wrong: what is counted from it stays within the calendar, wherever the clocks are."""

import time
from dataclasses import replace
from datetime import date, datetime, timedelta
from pathlib import Path
from types import SimpleNamespace

import pytest
from icalendar import Calendar

from pennello.files.day_json import demo_event
from pennello.files.day_out import day_ics
from pennello.files.log_out import log_ics
from pennello.moments import later, of_the_place
from pennello.practice.records import LogPage
from pennello.session.day import begins_at
from pennello.session.run_keeper import forget_answers_in_runs, run_path

DAYS = ("0001-01-01", "9999-12-31")


@pytest.fixture(params=["UTC", "WEST12", "EAST-14"], autouse=True)
def zone(request, monkeypatch):
    """A place whose clocks go before or after the calendar's (POSIX 1003.1, the variable TZ)."""
    monkeypatch.setenv("TZ", request.param)
    time.tzset()
    yield
    monkeypatch.undo()
    time.tzset()


def spans(data):
    return [(one["dtstart"].dt, one["dtend"].dt) for one in Calendar.from_ical(data).walk("VEVENT")]


@pytest.mark.parametrize("day", DAYS)
def test_an_event_of_any_day_begins_and_goes_to_the_calendar(day):
    event = replace(demo_event(), day=day)
    begins = begins_at(event)
    assert begins.date() == date.fromisoformat(day)
    assert begins.utcoffset() is not None
    assert (datetime.now().astimezone() - begins).total_seconds() != 0
    assert all(start <= end for start, end in spans(day_ics(event, begins)))


@pytest.mark.parametrize("day", [f"{one}T23:59:59+00:00" for one in DAYS])
def test_a_page_of_any_day_goes_to_the_calendar(day):
    (span,) = spans(log_ics([LogPage(day, "A year written wrong", painted_s=300.0)]))
    assert span[0].replace(tzinfo=None) == datetime.fromisoformat(day).replace(tzinfo=None)
    assert span[1] >= span[0]


def test_the_calendar_is_not_left():
    assert later(datetime(2024, 2, 28, 23, 59, 30), 60) == datetime(2024, 2, 29, 0, 0, 30)
    assert later(datetime.max, 1e9).year == 9999
    assert of_the_place(datetime(2026, 11, 28)).utcoffset() == datetime(2026, 11, 28).astimezone().utcoffset()
    for end in (datetime.min, datetime.max):
        assert of_the_place(end).replace(tzinfo=None) == end


def test_damaged_runs_of_any_time_are_forgotten(monkeypatch):
    """A clock that went wrong gives files times that no calendar has; what they hold is let go of with the others."""
    path, stat = run_path(), Path.stat
    path.parent.mkdir(parents=True, exist_ok=True)
    held = [path.with_name(f"{path.stem}.{number}{path.suffix}.damaged") for number in range(3)]
    for one in held:
        one.write_bytes(b"who said what")

    def told(self, **how):
        found = stat(self, **how)
        return SimpleNamespace(st_mtime=3e11, st_mode=found.st_mode) if self in held[::2] else found

    monkeypatch.setattr(Path, "stat", told)
    forget_answers_in_runs(date.today() + timedelta(days=2))
    assert not any(one.exists() for one in held)
