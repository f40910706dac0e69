"""Commands that cannot be carried out: one or two lines that name what is wrong and what to do, and an exit code."""

from __future__ import annotations

import os
import shlex
from pathlib import Path

import pytest

from tests.e2e.conftest import Command

# In the words of a command, {folder} is a folder with text.txt (three lines of prose), latin.txt (not UTF-8) and taken.sqlite.
BAD = [
    ("", 2, "NOUN"),
    ("sites", 2, "invalid choice"),
    ("try", 2, "address"),
    ("try not-an-address", 2, "address"),
    ("try ftp://shop.example/", 2, "http"),
    ("try http://[::1", 2, "address"),
    ("try http://127.0.0.1:9/ --max-pages 1", 1, "private"),
    ("try https://shop.example/ --max-pages 0", 2, "pages_max"),
    ("try https://shop.example/ --max-pages 9999999999999999999999", 2, "pages_max"),
    ("try https://shop.example/ --rate nan", 2, "rate_per_s"),
    ("try https://shop.example/ --rate inf", 2, "rate_per_s"),
    ("try https://shop.example/ --parallel -3", 2, "parallel"),
    ("try https://shop.example/ --min-health lots", 2, "--min-health"),
    ("try https://shop.example/ --min-health 150", 2, "--min-health"),
    ("try https://shop.example/ --save {folder}/taken.sqlite", 2, "already there"),
    ("try https://shop.example/ --save {folder}/no/where.sqlite", 2, "no folder"),
    ("serve --port 99999", 2, "no port"),
    ("serve --config {folder}/latin.txt", 2, "UTF-8"),
    ("serve --config {folder}/text.txt", 2, "TOML"),
    ("serve --config {folder}/nothing.toml", 2, "nothing.toml"),
    ("serve --port 0 --data {folder}/text.txt", 1, "text.txt"),
    ("serve --port 0 --workers 0 --data {folder}/data", 2, "workers"),
    ("catalogue show nothing", 3, "nothing"),
    ("catalogue list --area luck", 2, "luck"),
    ("alert acknowledge 999999", 3, "alert"),
    ("alert acknowledge 99999999999999999999", 2, "too large"),
    ("alert acknowledge seven", 2, "seven"),
    ("search ''", 2, "text is missing"),
    ("search x --limit 0", 2, "1 or more"),
    ("client add ' '", 2, "name"),
    ("client add 'Tidewrack Chandlery'", 1, "already"),
    ("client edit nobody --rename X", 3, "nobody"),
    ("client edit Tidewrack --holiday someday", 2, "day"),
    ("client remove Tidewrack", 2, "--yes"),
    ("site add Nobody x.example", 3, "Nobody"),
    ("site add Tidewrack 'not an address'", 2, "address"),
    ("site add Tidewrack https://tidewrack.example/", 1, "already"),
    ("site show nowhere", 3, "No site begins with"),
    ("site show ''", 3, "site"),
    ("site list --kind both", 2, "both"),
    ("site remove tidewrack", 2, "--yes"),
    ("plan edit tidewrack rate_per_s", 2, "NAME=VALUE"),
    ("plan edit tidewrack rate_per_s=-1", 2, "rate_per_s"),
    ("plan edit tidewrack =5", 2, "NAME=VALUE"),
    ("plan edit tidewrack colour=red", 2, "colour"),
    ("plan edit tidewrack 'checks_off=[\"nothing\"]'", 3, "nothing"),
    ("plan edit tidewrack thresholds.words_min=-1", 2, "words_min"),
    ("plan edit tidewrack exclude=[5]", 2, "exclude"),
    ("plan try tidewrack --address '::::'", 2, "::::"),
    ("plan import tidewrack {folder}/nothing.toml", 2, "nothing.toml"),
    ("plan import tidewrack {folder}/text.txt", 2, "TOML"),
    ("plan import tidewrack {folder}/latin.txt", 2, "UTF-8"),
    ("plan import tidewrack {folder}", 2, "cannot be read"),
    ("plan export nowhere", 3, "No site"),
    ("plan copy tidewrack nowhere", 3, "No site"),
    ("access set tidewrack --header X", 2, "NAME=VALUE"),
    ("access set tidewrack --header '=x'", 2, "NAME=VALUE"),
    ("access set tidewrack --user imke", 2, "terminal"),
    ("access set tidewrack", 2, "--user"),
    ("token add laptop --email imke@cobble-lantern.example", 2, "HODCARRIER_PASSWORD"),
    ("plan edit tidewrack addresses=@{folder}/text.txt", 2, "no web address"),
    ("run watch pellow", 3, "under way"),
    ("schedule edit tidewrack sometimes", 2, "recurrence"),
    ("schedule edit tidewrack weekly:XX", 2, "weekly:XX"),
    ("schedule edit tidewrack monthly:40", 2, "monthly:40"),
    ("schedule edit tidewrack daily --at 25:00", 2, "time of day"),
    ("schedule edit tidewrack daily --zone Mars/Base", 2, "time zone"),
    ("schedule edit tidewrack daily --mail nobody", 2, "e-mail"),
    ("schedule show saltline", 3, "saltline-stores.example"),
    ("run show zzz", 3, "No site begins with"),
    ("run checks zzz", 3, "No site begins with"),
    ("run checks tidewrack --outcome fine", 2, "invalid choice"),
    ("run show ffffffffff", 3, "no run ffffffffff"),
    ("run stop tidewrack", 3, "under way"),
    ("run resume tidewrack", 1, "done"),
    ("run list nowhere", 3, "No site"),
    ("run export tidewrack {folder}/run.xml", 2, ".csv"),
    ("run export tidewrack {folder}/no/run.csv", 2, "cannot be written"),
    ("finding list tidewrack --check nothing", 3, "nothing"),
    ("finding list tidewrack --severity worst", 2, "worst"),
    ("finding list tidewrack --limit -1", 2, "1 or more"),
    ("finding check tidewrack nothing", 3, "nothing"),
    ("finding causes tidewrack --check nothing", 3, "nothing"),
    ("page list tidewrack colour=red", 2, "no column"),
    ("page list tidewrack words.lt=abc", 2, "abc"),
    ("page list tidewrack words.lt=", 2, "words"),
    ("page list tidewrack --sort luck", 2, "luck"),
    ("page show tidewrack https://tidewrack.example/nowhere", 3, "does not know"),
    ("page show tidewrack '::::'", 2, "::::"),
    ("page look '::::'", 2, "::::"),
    ("compare tidewrack pellow", 1, "pellow-kiln.example"),
    ("compare tidewrack nothing", 3, "No site"),
    ("compare tidewrack tidewrack --change better", 2, "better"),
    ("waiver add tidewrack no-such --reason because", 3, "No check is called"),
    ("waiver add tidewrack text-thin --reason ''", 2, "reason"),
    ("waiver add tidewrack text-thin --reason because --end 2020-01-01", 2, "in the past"),
    ("waiver add tidewrack text-thin --reason because --pattern 'url:('", 2, "url:("),
    ("waiver remove 99999", 3, "99999"),
    ("todo add tidewrack --title x --who Nemo", 3, "Nobody called"),
    ("todo add tidewrack --title x --due 2020-01-01", 2, "in the past"),
    ("todo add tidewrack --title x --due soon", 2, "not a day"),
    ("todo add tidewrack", 2, "title"),
    ("todo add tidewrack --finding zz", 2, "hexadecimal"),
    ("todo show 99999", 3, "no todo 99999"),
    ("todo edit 1 --state confirmed", 2, "confirmed"),
    ("todo edit 12 --state dropped", 2, "reason"),
    ("todo list --who Nemo", 3, "Nemo"),
    ("remark add tidewrack ' '", 2, "text"),
    ("remark add tidewrack x --day 2026-02-30", 2, "not a day"),
    ("trend tidewrack --figure luck", 2, "luck"),
    ("trend tidewrack --from 2026-11-02 --to 2026-11-01", 2, "before"),
    ("benchmark show Nobody", 3, "no one benchmark"),
    ("benchmark trend Tidewrack --measure charm", 2, "no measure"),
    ("benchmark show Tidewrack --save {folder}/b.pdf", 2, ".xlsx"),
    ("benchmark schedule Tidewrack sometimes", 2, "sometimes"),
    ("benchmark edit Tidewrack --max-pages 0", 2, "pages_max"),
    ("run start ardmoor --user-agent own", 1, "use this user agent already"),
    ("benchmark add B tidewrack tidewrack", 2, "itself"),
    ("benchmark add B tidewrack nowhere", 3, "No site"),
    ("benchmark add B tidewrack saltline --max-pages 0", 2, "pages_max"),
    ("metric import tidewrack {folder}/nothing.csv", 2, "nothing.csv"),
    ("metric import tidewrack {folder}/latin.txt", 2, "UTF-8"),
    ("metric import tidewrack {folder}/text.txt", 2, "value"),
    ("report add tidewrack --from 2026-11-02 --to 2026-11-01", 2, "ends before"),
    ("report add tidewrack --from soon --to later", 2, "not a day"),
    ("report show 99999", 3, "99999"),
    ("report save 1 {folder}/month.docx", 2, ".pdf"),
    ("member add X nobody", 2, "password"),
    ("member edit Nemo --role lead", 3, "Nobody called"),
    ("member edit casper --role guest", 3, "owner"),
    ("member me --name ''", 2, "name"),
    ("token remove 99999", 3, "no token"),
    ("token add ' '", 2, "name"),
    ("token add x --days 0", 2, "days"),
    ("token add x --days soon", 2, "days"),
    ("token list --everybody", 3, "needs an owner"),
    ("retention show --weeks 0", 2, "weeks"),
    ("retention apply --weeks 1 --yes", 3, "needs an owner"),
    ("doctor --data {folder}/nowhere", 2, "no service's folder"),
    ("plan edit tidewrack 'private_addresses=[\"localhost\"]'", 3, "needs an owner"),
    ("backup {folder}/kept --data {folder}/nowhere", 2, "no service's folder"),
    ("backup {folder} --check", 2, "no backup"),
    ("restore {folder}/nowhere --data {folder}/data", 2, "no backup"),
    ("mail resend 99999", 3, "no mail 99999"),
    ("mail list --state lost", 2, "lost"),
    ("export findings {folder}/text.txt", 1, "text.txt"),
    ("export findings {folder}/nothing.sqlite", 1, "nothing.sqlite"),
    ("export findings {folder}", 1, "no run file"),
]


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    (tmp_path / "text.txt").write_text("All that glitters\nis not\na run file.\n")
    (tmp_path / "latin.txt").write_bytes(b"caf\xe9 = 1\n")
    (tmp_path / "taken.sqlite").touch()
    return tmp_path


@pytest.mark.parametrize(("words", "code", "expected"), BAD, ids=[words or "nothing" for words, _, _ in BAD])
def test_a_command_that_cannot_be_carried_out(command: Command, folder: Path, words: str, code: int, expected: str) -> None:
    found, printed, said = command(*shlex.split(words.replace("{folder}", str(folder))))
    assert "something broke inside" not in said and "Traceback" not in said, said
    assert (found, printed) == (code, ""), said
    assert expected in said
    lines = said.replace(str(folder), "").strip().splitlines()
    assert len([line for line in lines if not line.startswith(("usage:", " "))]) <= 2, said


def test_an_argument_that_is_no_text(command: Command) -> None:
    code, _, said = command("search", os.fsdecode(b"caf\xe9"))
    assert code == 2 and "not valid UTF-8" in said
