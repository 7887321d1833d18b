"""Whose turn it is: in the threads that answer, and among the questions that wait."""

from __future__ import annotations

import itertools
from collections import Counter

import pytest
from hypothesis import given
from hypothesis import strategies as st

from handrail.service.api.turns import AT_ONCE, Dispatcher
from handrail.service.processes import ahead
from handrail.store import questions
from handrail.store.questions import Asked, Question


class Channel:
    """A connection with one request of a caller."""

    def __init__(self, caller: str, number: int) -> None:
        self.caller, self.number, self.addr = caller, number, ("127.0.0.1", 1)
        self.requests = [type("Request", (), {"headers": {"AUTHORIZATION": caller}})()]

    def service(self) -> None:
        pass


@given(st.lists(st.sampled_from("abc"), min_size=1, max_size=30))
def test_everybody_is_served_in_the_order_that_they_asked(callers):
    turns = Dispatcher().queue
    for number, caller in enumerate(callers):
        turns.append(Channel(caller, number))
    served = []
    while len(turns):
        turn = turns.popleft()
        served.append(turn._channel)
        turn.service()
    assert len(served) == len(callers)
    for caller in set(callers):
        own = [c.number for c in served if c.caller == caller]
        assert own == sorted(own)
    left = Counter(callers)
    for first, second in itertools.pairwise(served):  # nobody twice while another waits
        left[first.caller] -= 1
        assert first.caller != second.caller or sum(left.values()) == left[first.caller]


def test_no_caller_takes_more_than_a_turn_at_a_time():
    turns = Dispatcher().queue
    for number in range(5):
        turns.append(Channel("greedy", number))
    held = [turns.popleft() for _ in range(AT_ONCE)]
    assert len(turns) == 0  # the others wait, though threads are free
    turns.append(Channel("other", 9))
    assert len(turns) == 1 and turns.popleft()._caller != held[0]._caller
    with held[0].aside():  # it only waits: another of the same caller may go on
        assert len(turns) == 1
        turns.popleft()
    assert len(turns) == 0
    held[0].service()
    assert len(turns) == 0  # the one that began meanwhile is under way


@pytest.fixture
def file(tmp_path):
    assert not questions.open_questions(tmp_path)  # nobody made it
    assert questions.open_questions(tmp_path, make=True)
    yield tmp_path
    questions.proxy.close()
    questions.proxy.initialize(None)


def ask(author: int, digest: str = "", job: str = "", keeps: bool = True) -> str:
    number, _ = questions.ask(Asked(digest or f"{author} {next(_count)}", keeps, job, author, {}, b""))
    return number


_count = itertools.count()


def test_people_come_first_then_jobs(file):
    many = [ask(1) for _ in range(6)]
    late = ask(2)
    first, second, third = (questions.claim("here") for _ in range(3))
    assert first.id == many[0] and second.id == late  # who has nothing under way goes before
    assert third.id == many[1] and questions.claim("here") is None  # of each two at a time
    questions.answered(first, 200, {}, b"{}")
    assert questions.claim("here").id == many[2]


def test_no_account_holds_more_than_its_share(file):
    for _ in range(questions.OPEN_EACH):
        ask(1)
    with pytest.raises(questions.TooMany):
        ask(1)
    ask(2)


def test_alike_is_one_and_an_act_never(file):
    assert ask(1, "same") == ask(2, "same")
    assert ask(1, "act", keeps=False) != ask(1, "act", keeps=False)


def test_what_nobody_asks_after_is_dropped(file, monkeypatch):
    waiting, begun = ask(1), ask(2)
    question = next(q for q in (questions.claim("here"), questions.claim("here")) if q.id == begun)
    assert questions.word(begun, "here", 1, 2)
    assert questions.find(begun).done == 1
    questions.leave(begun)
    assert not questions.word(begun, "here", 2, 2)
    questions.drop(begun, "here")
    assert questions.find(begun).state == questions.DROPPED and questions.answer_of(questions.find(begun)) is None
    questions.want(begun)  # somebody does
    assert questions.find(begun).state == questions.WAITING and question.id == begun
    assert questions.find(waiting) is not None


def test_what_a_dead_process_had_is_begun_again_once(file):
    number, act = ask(1), ask(2, keeps=False)
    for _ in range(2):
        questions.claim("dead")
    questions.release("dead")
    assert questions.find(number).state == questions.WAITING
    assert questions.find(act).state == questions.DROPPED  # nobody knows whether it was done
    questions.claim("dead")
    questions.release("dead")
    assert questions.find(number).state == questions.DROPPED


def test_answers_make_room_for_newer_ones(file, monkeypatch):
    monkeypatch.setattr(questions, "ROOM", 1000)
    for k in range(5):
        ask(1, f"of {k}")
        questions.answered(questions.claim("here"), 200, {}, b"x" * 300)
    assert [questions.kept(f"of {k}") is not None for k in range(5)] == [False, False, True, True, True]
    assert bytes(questions.kept("of 4").body) == b"x" * 300
    gone = Question.get(Question.digest == "of 0")
    questions.want(gone.id)  # who still waits for one that went has it worked out again
    assert questions.find(gone.id).state == questions.WAITING


def test_a_refusal_is_for_who_asked_alone(file):
    number = ask(1, "odd")
    questions.answered(questions.claim("here"), 422, {}, b"no")
    assert questions.kept("odd") is None and questions.answer_of(questions.find(number)).status == 422


def test_what_is_asked_ahead_gives_way_to_people(monkeypatch):
    """Where as many are open as may be, nothing is asked, and the process that would have asked goes on."""
    tried = []

    def full(asked):
        tried.append(asked)
        raise questions.TooMany

    monkeypatch.setattr(ahead, "ahead_of_all", lambda job, view: Asked(f"{job} {view}", True, "bay", 0, {}, b""))
    monkeypatch.setattr(ahead.questions, "known", lambda digest: False)
    monkeypatch.setattr(ahead.questions, "ask", full)
    own = ahead.Ahead(0)
    assert own._of("bay") and own._of("bay")
    assert [one.digest for one in tried] == ["bay model/shape", "bay model/states"]
