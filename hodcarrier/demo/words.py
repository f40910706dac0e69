"""Small text seeds from which the simulated sites are written, always the same way for the same page."""

from __future__ import annotations

from random import Random

BOATS = {
    "things": [
        "dock line",
        "anchor warp",
        "shackle",
        "fender",
        "cleat",
        "bilge pump",
        "hand lead",
        "boathook",
        "tiller strap",
        "oarlock",
        "sail tie",
        "deck brush",
    ],
    "traits": [
        "braided",
        "hand-spliced",
        "galvanised",
        "tarred",
        "soft",
        "heavy-duty",
        "salt-proof",
        "folding",
        "bright",
        "slim",
    ],
    "uses": [
        "on a drying mooring",
        "in a short harbour chop",
        "through a wet winter",
        "at the pontoon",
        "on a passage of several days",
        "in a crowded lock",
    ],
    "people": [
        "our yard hands",
        "harbour crews",
        "weekend sailors",
        "the rigging loft",
        "two retired pilots",
        "our customers on the estuary",
    ],
}
CLAY = {
    "things": [
        "stoneware bowl",
        "thrown jug",
        "slab dish",
        "salt glaze",
        "raku tile",
        "porcelain cup",
        "coil pot",
        "slip trail",
        "kiln shelf",
        "foot ring",
    ],
    "traits": ["ash-glazed", "hand-built", "wheel-thrown", "reduction-fired", "unglazed", "carved", "burnished", "speckled"],
    "uses": [
        "in the Tuesday class",
        "at the open studio day",
        "over a two-day firing",
        "with beginners",
        "in the garden kiln",
        "on the kick wheel",
    ],
    "people": ["our teachers", "the evening group", "first-time makers", "three local potters", "the studio assistants"],
}
SEEDS = {
    "things": [
        "runner bean",
        "marrowfat pea",
        "bush tomato",
        "skirret",
        "long carrot",
        "winter kale",
        "tall beet",
        "land cress",
        "broad bean",
        "field lettuce",
        "salsify",
        "walking onion",
    ],
    "traits": ["frost-hardy", "late", "dwarf", "climbing", "blue-podded", "sweet", "old", "drought-proof", "early", "purple"],
    "uses": [
        "in heavy clay",
        "on an exposed plot",
        "under glass until May",
        "along a north wall",
        "in a dry summer",
        "on an allotment by the coast",
    ],
    "people": [
        "our seed guardians",
        "the trial garden",
        "members in the hills",
        "school gardens",
        "two families who kept it going",
    ],
}
_SENTENCES = (
    "The {trait} {thing} has proved itself {use}.",
    "{People} choose the {thing} because it is {trait} and does not ask for much.",
    "We looked at {number} of them {use} and kept notes on every one.",
    "Take a {trait} {thing} if you want one that lasts, and keep it dry between seasons.",
    "What matters most about a {thing} is how it behaves {use}.",
    "{People} told us that the {trait} kind is easier to handle than it looks.",
    "After {number} weeks the difference between a {trait} {thing} and an ordinary one is plain to see.",
    "Nobody needs more than {number} of these, but one that is {trait} is worth having.",
    "Store the {thing} away from the sun; {people} learned that the hard way.",
    "It was first described by {people}, who used it {use} for years.",
)


def paragraph(seed: str, words: dict[str, list[str]], sentences: int) -> str:
    """A paragraph of so many sentences, decided by the seed alone."""
    chance = Random(seed)
    said = []
    for template in chance.choices(_SENTENCES, k=sentences):
        people = chance.choice(words["people"])
        text = template.format(
            thing=chance.choice(words["things"]),
            trait=chance.choice(words["traits"]),
            use=chance.choice(words["uses"]),
            people=people,
            People=people[0].upper() + people[1:],
            number=chance.randint(3, 30),
        )
        said.append(text)
    return " ".join(said)


def paragraphs(seed: str, words: dict[str, list[str]], count: int) -> str:
    """Several paragraphs as HTML."""
    return "".join(f"<p>{paragraph(f'{seed}/{n}', words, 5)}</p>" for n in range(count))
