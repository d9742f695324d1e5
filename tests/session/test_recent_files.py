"""The desktop's list of recent files: the form of the Desktop Bookmark Specification (freedesktop.org), from memory."""

from datetime import UTC, datetime, timedelta, timezone
from xml.etree import ElementTree

import pytest

from pennello.session.recent_files import MOST_OWN, note_recent, recent_list

NOW = datetime(2026, 11, 28, 20, 15, tzinfo=timezone(timedelta(hours=1)))
BOOKMARK = "{http://www.freedesktop.org/standards/desktop-bookmarks}"
MIME = "{http://www.freedesktop.org/standards/shared-mime-info}"
OTHERS = """<?xml version="1.0" encoding="UTF-8"?>
<xbel version="1.0"
      xmlns:bookmark="http://www.freedesktop.org/standards/desktop-bookmarks"
      xmlns:mime="http://www.freedesktop.org/standards/shared-mime-info">
  <bookmark href="file:///tmp/tide.txt" added="2026-01-02T03:04:05Z" modified="2026-01-02T03:04:05Z"
            visited="2026-01-02T03:04:05Z">
    <title>Tide table</title>
    <info><metadata owner="http://freedesktop.org"><mime:mime-type type="text/plain"/>
      <bookmark:groups><bookmark:group>Causeway</bookmark:group></bookmark:groups>
      <bookmark:applications><bookmark:application name="other" exec="'other %u'" count="3"/></bookmark:applications>
    </metadata></info>
  </bookmark>
</xbel>
"""


@pytest.fixture
def plan(tmp_path):
    return tmp_path / "moth & mask.pennello"


def test_a_plan_is_put_into_a_list_that_is_not_there_yet(tmp_path, plan):
    where = tmp_path / "data" / "recently-used.xbel"
    assert note_recent(plan, NOW, where)
    assert note_recent(plan, NOW + timedelta(minutes=5), where)
    root = ElementTree.parse(where).getroot()
    assert (root.tag, root.get("version")) == ("xbel", "1.0")
    (entry,) = root
    assert entry.get("href") == plan.as_uri()
    assert plan.as_uri().endswith("moth%20%26%20mask.pennello")
    assert (entry.get("added"), entry.get("visited")) == ("2026-11-28T19:15:00.000000Z", "2026-11-28T19:20:00.000000Z")
    data = entry.find("info/metadata[@owner='http://freedesktop.org']")
    assert data.find(f"{MIME}mime-type").get("type") == "application/x-pennello-plan+json"
    (mine,) = data.findall(f"{BOOKMARK}applications/{BOOKMARK}application")
    assert (mine.get("name"), mine.get("exec"), mine.get("count")) == ("pennello", "'pennello %u'", "2")
    assert where.stat().st_mode & 0o777 == 0o600


def test_a_count_that_is_none_begins_anew(tmp_path, plan):
    where = tmp_path / "recently-used.xbel"
    assert note_recent(plan, NOW, where)
    where.write_text(where.read_text().replace('count="1"', 'count="²"'))
    assert note_recent(plan, NOW, where)
    assert 'count="1"' in where.read_text()


def test_what_others_wrote_stays(tmp_path, plan):
    where = tmp_path / "recently-used.xbel"
    where.write_text(OTHERS)
    before = ElementTree.fromstring(OTHERS)[0]
    assert note_recent(plan, NOW, where)
    kept, new = ElementTree.parse(where).getroot()
    assert ElementTree.canonicalize(ElementTree.tostring(kept), strip_text=True) == ElementTree.canonicalize(
        ElementTree.tostring(before), strip_text=True
    )
    assert new.get("href") == plan.as_uri()


def test_no_more_than_so_many_of_its_own_stay(tmp_path):
    where = tmp_path / "recently-used.xbel"
    where.write_text(OTHERS)
    for number in range(MOST_OWN + 4):
        assert note_recent(tmp_path / f"{number}.pennello", NOW + timedelta(seconds=number), where)
    names = [one.get("href").rpartition("/")[2] for one in ElementTree.parse(where).getroot()]
    assert names[0] == "tide.txt"
    assert names[1:] == [f"{number}.pennello" for number in range(4, MOST_OWN + 4)]


@pytest.mark.parametrize(
    "found",
    ["<xbel", "<html/>", '<!DOCTYPE x [<!ENTITY a "b">]><xbel version="1.0">&a;</xbel>', "\x00\x01"],
)
def test_a_list_that_is_none_is_left_alone(tmp_path, plan, found):
    where = tmp_path / "recently-used.xbel"
    where.write_text(found)
    assert not note_recent(plan, NOW, where)
    assert where.read_text() == found


def test_other_files_and_folders_that_refuse_are_no_reason_to_stop(tmp_path, plan):
    assert not note_recent(tmp_path / "a.txt", NOW, tmp_path / "list.xbel")
    (tmp_path / "file").write_text("")
    assert not note_recent(plan, NOW, tmp_path / "file" / "list.xbel")


def test_the_list_lies_in_the_data_folder(monkeypatch, tmp_path):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    assert recent_list() == tmp_path / "recently-used.xbel"
    assert NOW.astimezone(UTC).hour == 19
