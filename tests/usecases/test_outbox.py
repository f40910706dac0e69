"""Mails: written with what causes them, sent once, tried again with patience, never lost."""

from __future__ import annotations

import threading
from dataclasses import dataclass, field
from datetime import timedelta

import pytest
from sqlalchemy import select

from hodcarrier.core.catalogue import doc, page
from hodcarrier.core.errors import Conflict
from hodcarrier.core.states import DeliveryState
from hodcarrier.register.models import Delivery, Member, Run
from hodcarrier.service.mail import Refused
from hodcarrier.service.postman import Enclosed, deliver_due, go_round
from hodcarrier.service.repeating import Repeating
from hodcarrier.usecases import desk, finishing, members, outbox, runs, schedules
from hodcarrier.wire.members import MemberBody
from hodcarrier.wire.schedules import ScheduleBody
from tests.usecases.conftest import START, Office

TO = "imke@agency.example"
MINUTE = timedelta(minutes=1)
NOBODY = Member(id=None, name="")


@dataclass
class Server:
    """A mail server that fails as long as it is told to. ``ids`` are those of mails it took."""

    trouble: Exception | None = None
    taken: list[tuple[str, str]] = field(default_factory=list)

    def send(self, to: str, subject: str, text: str, html: str, message_id: str, enclosed: Enclosed | None = None) -> None:
        if self.trouble is not None:
            raise self.trouble
        assert subject and text
        self.taken.append((to, message_id))


def write(office: Office, *recipients: str) -> None:
    with office.work.session() as session:
        outbox.post(session, office.work.now(), None, recipients or (TO,), "Done", "All of it")


def states(office: Office) -> list[str]:
    return [row.state for row in outbox.list_deliveries(office.work)]


def test_a_mail_is_sent_once(office: Office) -> None:
    server = Server()
    write(office, TO, "oona@agency.example")
    assert deliver_due(office.work, server) == 2 and deliver_due(office.work, server) == 0
    assert [to for to, _ in server.taken] == [TO, "oona@agency.example"]
    assert len({message_id for _, message_id in server.taken}) == 2
    (second, first) = outbox.list_deliveries(office.work)
    assert (first.state, first.attempts, first.error, first.next_at) == (DeliveryState.SENT, 1, "", None)
    assert first.sent_at == START and second.recipient == "oona@agency.example"
    with pytest.raises(Conflict, match="was sent"):
        outbox.send_again(office.work, first.id, NOBODY)


def test_a_server_that_is_down_is_asked_again_with_growing_patience(office: Office) -> None:
    server = Server(OSError("connection refused"))
    write(office)
    waited, at = [], START
    for _ in range(60):
        assert deliver_due(office.at(at), server) == 0
        (row,) = outbox.list_deliveries(office.work)
        assert row.error == "connection refused"
        if row.next_at is None:
            break
        waited.append((row.next_at - at) / MINUTE)
        at = row.next_at
    assert waited[:7] == [1, 5, 15, 60, 180, 360, 360]
    assert row.state == DeliveryState.GIVEN_UP and timedelta(days=4) < at - START <= outbox.PATIENCE
    server.trouble = None
    assert deliver_due(office.at(at + timedelta(days=30)), server) == 0, "given up means given up"
    assert outbox.send_again(office.at(at), row.id, NOBODY).state == DeliveryState.WAITING
    assert deliver_due(office.at(at), server) == 1 and states(office) == ["sent"]


def test_between_attempts_nobody_is_asked(office: Office) -> None:
    server = Server(OSError("busy"))
    write(office)
    deliver_due(office.work, server)
    server.trouble = None
    assert deliver_due(office.at(START + 0.9 * MINUTE), server) == 0
    assert deliver_due(office.at(START + MINUTE), server) == 1


@pytest.mark.parametrize("trouble", [Refused("550 no such mailbox"), ValueError("a line break"), KeyError("odd")])
def test_one_mails_trouble_is_its_own(office: Office, trouble: Exception) -> None:
    class Picky(Server):
        def send(self, to: str, subject: str, text: str, html: str, message_id: str, enclosed: Enclosed | None = None) -> None:
            if to == TO:
                raise trouble
            super().send(to, subject, text, html, message_id, enclosed)

    server = Picky()
    write(office, TO, "oona@agency.example")
    assert deliver_due(office.work, server) == 1
    assert [to for to, _ in server.taken] == ["oona@agency.example"]
    final = isinstance(trouble, Refused)
    assert states(office) == ["sent", "given up" if final else "waiting"]


def test_a_mail_whose_postman_died_is_sent_again_under_the_same_id(office: Office) -> None:
    write(office)
    letter = outbox.claim_next(office.work)
    assert letter is not None and outbox.claim_next(office.work) is None, "nobody else sends it meanwhile"
    server = Server()
    assert deliver_due(office.at(START + outbox.CLAIM), server) == 0
    assert deliver_due(office.at(START + outbox.CLAIM + MINUTE), server) == 1
    assert server.taken == [(TO, f"delivery-{letter.id}")]


def test_of_several_postmen_one_sends_a_mail(office: Office) -> None:
    write(office, *(f"p{n}@agency.example" for n in range(30)))
    server = Server()
    threads = [threading.Thread(target=deliver_due, args=(office.work, server)) for _ in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert len(server.taken) == 30 == len(set(server.taken))


def test_a_postman_goes_round_until_he_is_ended(office: Office) -> None:
    came = threading.Event()

    class Bell(Server):
        def send(self, to: str, subject: str, text: str, html: str, message_id: str, enclosed: Enclosed | None = None) -> None:
            super().send(to, subject, text, html, message_id, enclosed)
            came.set()

    server = Bell()
    postman = Repeating("postman", 0.01, lambda ended: go_round(office.work, server, ended))
    postman.start()
    write(office)
    assert came.wait(20)
    postman.end()
    assert states(office) == ["sent"]


def test_the_mail_is_written_with_the_end_of_its_run_or_not_at_all(office: Office, monkeypatch: pytest.MonkeyPatch) -> None:
    schedules.set_schedule(office.work, office.site.id, ScheduleBody(rule="daily", mail_to=[TO]), None)

    def crash(*_: object) -> None:
        raise KeyboardInterrupt

    run = runs.queue_run(office.work, office.site.id).id
    with monkeypatch.context() as patched:
        patched.setattr(outbox, "post", crash)
        with pytest.raises(KeyboardInterrupt):
            finishing.fail_run(office.work, run, "the disk is full")
    with office.work.reading() as session:
        assert session.get_one(Run, run).state == "queued"
    finishing.fail_run(office.work, run, "the disk is full")
    assert [(row.run_id, row.state) for row in outbox.list_deliveries(office.work)] == [(run, "waiting")]


def test_the_desk_tells_of_mails_that_were_given_up(office: Office) -> None:
    schedules.set_schedule(office.work, office.site.id, ScheduleBody(rule="daily", mail_to=[TO]), None)
    office.audit(START, [page(doc("<h1>Shop</h1>"))])
    write(office, "gone@agency.example")
    deliver_due(office.work, Server(Refused("The mail server refuses it for good: 550 no such mailbox")))
    body = MemberBody(name="Imke", email=TO, role="lead", password="long enough words")
    with office.work.reading() as session:
        imke = session.get_one(Member, members.add_member(office.work, body).id)
        session.expunge(imke)
    (item,) = [i for i in desk.get_desk(office.work, imke).items if i.kind == "mail"]
    assert (
        item.text == "1 mail could not be sent" and "550 no such mailbox" in item.detail and item.link == "/team?tab=deliveries"
    )
    assert outbox.list_deliveries(office.work, DeliveryState.SENT)[0].site_host == "shop.example"


def test_what_steers_a_display_is_made_visible_in_mails(office: Office) -> None:
    with office.work.session() as session:
        outbox.post(
            session, START, None, ["imke@agency.example"], "shop\u202e.example\nBcc: all", "It says \x1b[2J and \u2066more"
        )
    (mail,) = outbox.list_deliveries(office.work, None, 10)
    assert mail.subject == "shop<U+202E>.example Bcc: all"
    with office.work.reading() as session:
        assert session.scalars(select(Delivery.text)).one() == "It says \u241b[2J and <U+2066>more"
