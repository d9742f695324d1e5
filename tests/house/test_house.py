"""What holds for all files: no circles, names that are each one's own and used, texts that are true."""

import ast
import re
from collections import Counter
from functools import cache
from pathlib import Path

import pytest
from tests.house.sources import OTHERS, ROOT, SOURCES, TOOLS, nodes_of, text_of, tree_of

from pennello.finding import Code


def module_of(path):
    parts = path.relative_to(ROOT / "src").with_suffix("").parts
    return ".".join(parts[:-1] if parts[-1] == "__init__" else parts)


def imports_of(path, known):
    """Return the modules that a file imports anywhere in it, those in functions and for types alone too."""
    for node in nodes_of(path):
        if isinstance(node, ast.ImportFrom) and node.module:
            names = {node.module, *(f"{node.module}.{one.name}" for one in node.names)}
            yield from names & known


def test_no_circle_between_files():
    modules = {module_of(path): path for path in SOURCES}
    left = {name: set(imports_of(path, modules.keys())) - {name} for name, path in modules.items()}
    while True:
        free = [name for name, needs in left.items() if not needs & left.keys()]
        if not free:
            break
        for name in free:
            del left[name]
    assert not left, f"these import each other in a circle, or such: {sorted(left)[:8]}"


def test_folders_are_made_and_files_looked_for_in_one_place():
    """Where a folder may not be looked into pathlib raises what no user can read; `pennello.disk` has sentences."""
    found = [
        f"{module_of(path)}:{node.lineno}"
        for path in SOURCES
        if path.name != "disk.py"
        for node in nodes_of(path)
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute) and node.func.attr in ("mkdir", "exists")
    ]
    assert found == [], "use make_folder and exists of pennello.disk"


def test_results_are_kept_by_one_module():
    """What is kept elsewhere is not forgotten with the rest: it would be taken for a leak."""
    found = [module_of(path) for path in SOURCES if path.name != "kept.py" and "lru_cache" in text_of(path)]
    assert found == [], "use remembered of pennello.kept"


def test_class_names_are_each_ones_own():
    names = Counter(node.name for path in SOURCES for node in tree_of(path).body if isinstance(node, ast.ClassDef))
    assert [name for name, count in names.items() if count > 1] == []


def test_every_public_name_is_used():
    """A function, class or constant of a module that nothing else names is no part of anything."""
    words = Counter(word for path in [*SOURCES, *OTHERS] for word in re.findall(r"\w+", text_of(path)))
    unused = []
    for path in SOURCES:
        for node in tree_of(path).body:
            if isinstance(node, ast.FunctionDef | ast.ClassDef):
                names = [node.name] if not (isinstance(node, ast.FunctionDef) and node.decorator_list) else []
            elif isinstance(node, ast.Assign):
                names = [one.id for one in node.targets if isinstance(one, ast.Name)]
            else:
                names = []
            unused += [f"{module_of(path)}.{name}" for name in names if name[0] != "_" and words[name] < 2]
    assert unused == []


@pytest.mark.parametrize("path", SOURCES, ids=module_of)
def test_signals_in_docstrings_are_there(path):
    for node in nodes_of(path):
        if isinstance(node, ast.ClassDef):
            told = re.search(r"Signals\n-+\n(.*?)(\n\n[A-Z]\w+\n-+|\Z)", ast.get_docstring(node) or "", re.DOTALL)
            lines = [line for line in told[1].splitlines() if line and line[0] != " "] if told else []
            names = {name for line in lines for name in re.findall(r"\w+", re.sub(r"\(.*?\)", "", line))}
            own = {
                target.id
                for one in node.body
                if isinstance(one, ast.Assign)
                for target in one.targets
                if isinstance(target, ast.Name)
            }
            assert names <= own, f"{node.name} tells of {names - own}"


@cache
def all_tests():
    return "\n".join(text_of(path) for path in OTHERS if path != Path(__file__))


@pytest.mark.parametrize("code", list(Code), ids=lambda code: code.value)
def test_every_finding_has_a_test_and_a_line(code):
    assert f'"{code.value}"' in all_tests() or f"Code.{code.name}" in all_tests()
    assert f"`{code.value}`" in (ROOT / "docs" / "findings.md").read_text("utf-8")


def test_documents_name_files_that_are_there():
    for page in (ROOT / "docs").glob("*.md"):
        for name in re.findall(r"`((?:[a-z_]+/)+[a-z_]+\.py)`", page.read_text("utf-8")):
            assert (ROOT / "src" / "pennello" / name).exists() or (ROOT / name).exists(), f"{page.name}: {name}"


def test_lines_of_the_packages_changelog_are_short():
    """As lintian has it (debian-changelog-line-too-long): 80 signs, but for who signs."""
    lines = (ROOT / "packaging" / "changelog").read_text("utf-8").splitlines()
    assert [line for line in lines if len(line) > 80 and not line.startswith(" -- ")] == []


# --- size ---

BRANCHES = (ast.If, ast.For, ast.While, ast.ExceptHandler, ast.IfExp, ast.Assert)
MOST_BRANCHES, MOST_ALIKE = 15, 5


def branches(function):
    """Count as McCabe (1976) does, comprehensions, their conditions and every `and` and `or` too."""
    count = 1
    for node in ast.walk(function):
        if isinstance(node, BRANCHES):
            count += 1
        elif isinstance(node, ast.comprehension):
            count += 1 + len(node.ifs)
        elif isinstance(node, ast.BoolOp):
            count += len(node.values) - 1
    return count


def functions_of(paths):
    for path in paths:
        for node in nodes_of(path):
            if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef):
                yield path, node


def test_no_function_branches_more_than_fifteen_times():
    many = [
        f"{path.name}: {node.name} {branches(node)}"
        for path, node in functions_of([*SOURCES, *TOOLS])
        if branches(node) > MOST_BRANCHES
    ]
    assert not many


def test_branches_are_counted():
    words = "def f(a):\n    for b in [c for c in a if c and b or d]:\n        assert b\n        return 1 if a else 2"
    assert branches(ast.parse(words).body[0]) == 8


def code_lines(path):
    """Yield the lines of a file that do something, with their numbers: no imports, texts, brackets."""
    skipped = set()
    for node in nodes_of(path):
        text = isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant)
        if text or isinstance(node, ast.Import | ast.ImportFrom | ast.AnnAssign):
            skipped |= set(range(node.lineno, node.end_lineno + 1))
    for number, line in enumerate(text_of(path).splitlines(), 1):
        words = line.strip()
        if number not in skipped and re.search(r"\w", words) and not words.startswith("#"):
            yield number, words


def test_no_six_lines_stand_in_two_places():
    seen, twice = {}, []
    for path in SOURCES:
        lines = list(code_lines(path))
        for at in range(len(lines) - MOST_ALIKE):
            run = tuple(words for _, words in lines[at : at + MOST_ALIKE + 1])
            place = f"{path.name}:{lines[at][0]}"
            if run in seen:
                twice.append(f"{seen[run]} and {place}")
            seen.setdefault(run, place)
    assert not twice
