"""A new client by the command line, with a first look over the network."""

from __future__ import annotations

import pytest

from tests.e2e.conftest import Command

SITE = "https://saltline-stores.example/"


def test_a_first_look_tells_what_is_there_and_changes_nothing(command: Command) -> None:
    before = command("client", "list", "--format", "json")[1]
    code, printed, told = command("client", "look", SITE)
    assert code == 0, told
    for said in ("robots.txt", "Sitemaps", "Time to first byte", "An audit takes about"):
        assert said in printed
    assert command("client", "list", "--format", "json")[1] == before


@pytest.mark.parametrize("address", ["https://nobody-home.example/", "not a url"])
def test_a_site_that_does_not_answer_is_no_client(command: Command, address: str) -> None:
    code, _, told = command("client", "add", "Nobody Home", "--site", address)
    assert code in (1, 2) and address.split("//")[-1].strip("/") in told
    assert "Nobody Home" not in command("client", "list")[1]


def test_a_client_is_set_up_in_one_command_archived_and_brought_back(command: Command) -> None:
    code, printed, told = command("client", "add", "Saltline", "--site", SITE, "--tag", "school", "--no-run")
    assert code == 0 and "every Tuesday at" in printed, told
    try:
        assert "Saltline" in command("client", "show", "Saltline")[1]
        assert "saltline-stores.example" in command("site", "list", "--tag", "school")[1]
        assert command("client", "archive", "Saltline")[0] == 0
        assert "Saltline" not in command("client", "list")[1]
        assert "Saltline" in command("client", "list", "--archived")[1]
        assert command("client", "restore", "Saltline")[0] == 0
        preview = command("site", "edit", "tag:school", "--set", "rate_per_s=1", "--pause", "--preview")
        assert "Requests per second" in preview[1] and "Paused" in preview[1]
        assert command("site", "edit", "tag:school", "--set", "rate_per_s=1", "--pause")[2].strip() == "1 site changed."
    finally:
        command("client", "remove", "Saltline", "--yes")
