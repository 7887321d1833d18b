"""The words of the command line: each command and each thing that it does has its own help, and what is wrong is told
with where to look."""

from __future__ import annotations

import argparse
from collections.abc import Iterator

import pytest

from handrail.cli.main import main, parser


def deeper(of: argparse.ArgumentParser) -> Iterator[argparse.ArgumentParser]:
    """A command with all that it does."""
    yield of
    for action in of._actions:
        if isinstance(action, argparse._SubParsersAction):
            for one in action.choices.values():
                yield from deeper(one)


def test_everything_that_can_be_said_has_its_words():
    every = list(deeper(parser()))
    assert len(every) > 90
    for one in every:
        assert one.description, one.prog
        assert all(a.help or a.metavar or a.dest for a in one._actions)


@pytest.mark.parametrize(
    ("words", "has", "lacks"),
    [
        (["override", "accept"], ["JOB", "NUMBER", "--word", "--state"], ["--hold", "--remedy", "--csv"]),
        (["override", "set"], ["CONNECTION PARAMETER=VALUE", "--reason", "--hold", "--both"], ["--word", "--head"]),
        (["override", "verify"], ["--file", "--head"], ["--reason"]),
        (["rulebook", "try"], ["FILE", "--on", "--formula"], ["--if-version", "--facts"]),
        (["house", "approve"], ["NAME", "REVISION"], ["--note"]),
        (["combinations", "generate"], ["--edition", "--sds"], ["FILE"]),
        (["users", "role"], ["JOB", "NAME", "ROLE"], ["--admin"]),
    ],
)
def test_help_says_what_goes_with_it_and_nothing_else(words, has, lacks, capsys):
    with pytest.raises(SystemExit) as ended:
        main([*words, "--help"])
    text = capsys.readouterr().out
    assert ended.value.code == 0
    assert all(one in text for one in has) and not any(one in text for one in lacks)


@pytest.mark.parametrize(
    ("words", "told"),
    [
        (["override"], "required: ACTION; see 'handrail override --help'"),
        (["override", "take", "demo", "B1.i"], "required: FROM; see 'handrail override take --help'"),
        (["maps", "put", "mine"], "required: FILE; see 'handrail maps put --help'"),
        (["override", "accept", "demo", "1", "--hold"], "unrecognized arguments: --hold"),
        (["users", "make"], "invalid choice: 'make'"),
    ],
)
def test_what_is_left_out_or_does_not_go_is_told(words, told, capsys):
    with pytest.raises(SystemExit) as ended:
        main(words)
    assert ended.value.code == 2 and told in capsys.readouterr().err


def test_where_the_service_is_can_be_said_before_and_behind():
    for words in (["tokens", "--json", "list"], ["tokens", "list", "--json"], ["tokens", "--json"]):
        args = parser().parse_args(words)
        assert args.json and args.action == "list" and args.server is None
