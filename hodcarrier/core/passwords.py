"""What a password must be (NIST SP 800-63B, 5.1.1.2): long, and none of those that are tried first. Nothing is asked of its characters."""

from __future__ import annotations

import re

LENGTH_MIN = 10

# Of the passwords that are tried first, those that are long enough; each stands for all that only adds digits or marks to it.
_COMMON = frozenset(
    [
        "password",
        "passwort",
        "passw0rd",
        "p4ssword",
        "letmein",
        "welcome",
        "welcomeback",
        "administrator",
        "administration",
        "changeme",
        "changethis",
        "changeit",
        "iloveyou",
        "iloveyouforever",
        "qwertyuiop",
        "qwertyuiopasdfghjkl",
        "asdfghjkl",
        "zxcvbnm",
        "qwertzuiop",
        "azertyuiop",
        "1q2w3e4r5t",
        "1q2w3e4r5t6y",
        "1qaz2wsx3edc",
        "zaq12wsx",
        "qazwsxedc",
        "basketball",
        "football",
        "baseball",
        "superman",
        "batman",
        "princess",
        "sunshine",
        "butterfly",
        "chocolate",
        "starwars",
        "pokemon",
        "liverpool",
        "manchester",
        "chelsea",
        "arsenal",
        "everything",
        "whatever",
        "trustno1",
        "trustnoone",
        "letmeinnow",
        "opensesame",
        "secretsecret",
        "topsecret",
        "mypassword",
        "yourpassword",
        "thepassword",
        "newpassword",
        "oldpassword",
        "nopassword",
        "default",
        "defaultpassword",
        "testtest",
        "testpassword",
        "rootroot",
        "rootpassword",
        "adminadmin",
        "adminpassword",
        "useruser",
        "guestguest",
        "hello",
        "helloworld",
        "computer",
        "internet",
        "masterpassword",
        "mastermaster",
        "monkeymonkey",
        "dragondragon",
        "michaeljackson",
        "charlie",
        "jessica",
        "jennifer",
        "alexander",
        "elizabeth",
        "summer",
        "winter",
        "spring",
        "autumn",
        "january",
        "february",
        "september",
        "october",
        "november",
        "december",
        "monday",
        "correcthorsebatterystaple",
    ]
)
_RUNS = ("abcdefghijklmnopqrstuvwxyz" * 2, "01234567890" * 3, "qwertyuiopasdfghjklzxcvbnm", "qwertzuiopasdfghjklyxcvbnm")
_AROUND = re.compile(r"^[\W\d_]+|[\W\d_]+$")


def complaint(password: str, *about: str) -> str:
    """Why a password will not do, in a sentence; empty when it will. ``about`` are words that say whose it is: name, address, service."""
    if len(password) < LENGTH_MIN:
        return f"The password has fewer than {LENGTH_MIN} characters."
    plain = password.lower()
    if len(set(plain)) <= 3:
        return "The password repeats a few characters only."
    if any(plain in run or plain[::-1] in run for run in _RUNS):
        return "The password is a row of neighbouring characters."
    core = _AROUND.sub("", plain)
    if core in _COMMON or plain in _COMMON:
        return "The password is one of those that are tried first."
    words = {part for text in about for part in re.split(r"[\W_]+", text.lower()) if len(part) >= 4}
    rest = plain
    for word in sorted(words, key=len, reverse=True):
        rest = rest.replace(word, "")
    if len(re.sub(r"[\W\d_]+", "", rest)) < 4 and rest != plain:
        return "The password is little more than a name that others know."
    return ""
