"""The verb about words: glossary."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace

from pennello.cli.asking import json_argument, verb
from pennello.cli.main import write_json
from pennello.phrases import phrase
from pennello.session.glossary import found_words


def glossary_arguments(parser: ArgumentParser) -> None:
    """Say what `glossary` takes."""
    parser.add_argument("word", nargs="?", default="", help=phrase("words that hold this; all of them without it"))
    json_argument(parser)


@verb("glossary", phrase("what the words mean"), glossary_arguments)
def glossary_verb(args: Namespace) -> int:
    """Say what words mean; 1 where there is none."""
    found = found_words(args.word)
    if args.json:
        write_json({"words": dict(found)})
    elif found:
        print("\n".join(f"{word}: {told}" for word, told in found))
    else:
        print(phrase("There is no word with '{word}'; without one all are listed.", word=args.word))
    return 0 if found else 1
