"""The templates that ship: the first visit of a site, the presence of a local business, and what is looked at before a launch."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from hodcarrier.core.review.sheets import Item, Section, with_keys
from hodcarrier.core.states import SheetAsks

_NUMBER = SheetAsks.NUMBER


@dataclass(frozen=True)
class Template:
    """A sheet as it is begun: its name, what it is for, and its sections."""

    name: str
    note: str
    sections: tuple[Section, ...]


def _template(name: str, note: str, sections: Mapping[str, tuple[Item, ...]]) -> Template:
    return Template(name, note, tuple(with_keys([Section(title, items) for title, items in sections.items()])))


SHIPPED: Mapping[str, Template] = {
    "first-visit": _template(
        "First visit of a site",
        "What a person sees in the first half hour, beside what the audit has found.",
        {
            "What the site says": (
                Item("The start page says what is offered, and to whom", "Read it as somebody who has never heard of the company. Five seconds must do.", key="start-says"),
                Item("There is one obvious next step on the start page", "A purchase, a call, a form. Two that compete count as none.", key="next-step"),
                Item("Prices, or how they come about, can be found", "From the start page in two clicks.", key="prices"),
                Item("The text is written for readers, not for search engines", "Read three pages aloud. Repeated phrases that nobody would say are a fault.", key="for-readers"),
                Item("Pages say who wrote them and when, where that matters", "Advice, news, anything on health, money or law.", known_by="check.trust-author", key="author"),
            ),
            "Whether it can be found": (
                Item("Each topic that people search for has one page of its own", "Take ten queries of the client and look which page should answer each. Several pages for one query, or none, is a fault.", key="topics"),
                Item("Titles and headings use the words that customers use", "Compare with the queries that bring clicks, or with what the client hears on the phone.", key="words"),
                Item("Important pages are not shut out", "What the audit says of pages that are not indexable; look whether any of them should be.", known_by="check.index-lost-noindex", key="shut-out"),
                Item("Titles are there", known_by="check.title-missing", key="titles"),
                Item("Descriptions are there", known_by="check.desc-missing", key="descriptions"),
                Item("Clicks from search in the last whole week", asks=_NUMBER, unit="clicks", known_by="figure.search.clicks", key="clicks"),
            ),
            "Whether it works": (
                Item("The main way through the site works on a phone", "Go it yourself: from a search result to the confirmation.", key="phone"),
                Item("Forms say what is wrong, and lose nothing", "Send one with a mistake in it.", key="forms"),
                Item("The search of the site finds what it should", "A product by its name, by a misspelt name, by its purpose. Not applicable where there is none.", key="site-search"),
                Item("No link leads nowhere", known_by="check.link-broken", key="links"),
                Item("The start page is there quickly", "On a phone, with the cache empty: something to read within two seconds.", key="quick"),
            ),
            "Whether it can be trusted": (
                Item("An address, a telephone number and a name can be found", known_by="check.trust-contact", key="contact"),
                Item("What others say of the company is on the site, and true", "Follow two of the quotations to where they come from.", key="references"),
                Item("Nothing is out of date", "Years in the footer, opening hours, offers that have ended, people who have left.", key="out-of-date"),
                Item("The connection is safe", known_by="check.secure-http-pages", key="https"),
            ),
        },
    ),
    "local-presence": _template(
        "Local business presence",
        "What people see of a business that they want to visit or call, on its site and elsewhere.",
        {
            "On the site": (
                Item("Name, address and telephone number stand on every page, as text", "Copy them: what cannot be copied is a picture.", key="name-address"),
                Item("Each place of business has a page of its own", "With its address, opening hours, how to get there and what is offered there. Not applicable with one place.", key="place-pages"),
                Item("Opening hours are right, holidays too", "Ask the client; compare with the door.", key="hours"),
                Item("The business is described in structured data", "Name, address, opening hours and telephone number as the page says them.", known_by="check.data-org-missing", key="structured"),
                Item("A tap on the telephone number calls", "On a phone.", key="tap-to-call"),
                Item("Directions open in a map", "Try it from where customers come.", key="map"),
            ),
            "Elsewhere": (
                Item("The entry in map services is claimed by the client", "Ask who can sign in. Nobody knows is a fault.", key="claimed"),
                Item("Name, address and telephone number are the same everywhere", "Search for the telephone number and look at the first twenty results.", key="same-everywhere"),
                Item("Categories of the entries fit what is sold", "The first category counts the most.", key="categories"),
                Item("Photographs are the business's own, and not older than two years", key="photographs"),
                Item("Nobody else has an entry under this address", "Former tenants, doubles, entries under an old name.", key="doubles"),
            ),
            "What customers say": (
                Item("Reviews in all places together", asks=_NUMBER, unit="reviews", known_by="figure.site.Reviews", key="reviews"),
                Item("Mean of the stars, where there are most reviews", asks=_NUMBER, unit="stars", known_by="figure.site.Stars", key="stars"),
                Item("Reviews of the last three months", asks=_NUMBER, unit="reviews", key="recent-reviews"),
                Item("Reviews are answered, the bad ones too", "Look at the last ten. An answer that argues is a fault.", key="answered"),
                Item("Customers are asked for a review, and how is allowed", "No presents, no choice of whom to ask.", key="asked"),
            ),
        },
    ),
    "before-launch": _template(
        "Before launch",
        "What must be right before a new site, or a new version of one, goes live.",
        {
            "Addresses": (
                Item("Every old address that has links or visits leads to its successor", "Take the list from the last audit of the old site and from figures; fetch each. The start page is no successor.", key="redirects"),
                Item("No redirect leads to another redirect", known_by="check.reach-redirect-chain", key="chains"),
                Item("Addresses stay as they are unless there was a reason to change them", key="kept"),
                Item("One form of each address answers, all others lead to it", "With and without www, with and without a slash at the end, http and https.", key="one-form"),
                Item("Addresses that do not exist answer 404", "With a page that helps.", known_by="check.reach-soft-not-found", key="missing"),
            ),
            "What search engines may see": (
                Item("What kept the test site out is gone", "robots.txt, noindex, passwords. Look at the live site, not at the settings.", known_by="check.index-lost-noindex", key="test-gone"),
                Item("The test site itself is kept out", "By a password. Look for it in search results.", key="test-out"),
                Item("robots.txt is the one that is meant", key="robots"),
                Item("The sitemap lists the pages that are meant, and no others", known_by="check.files-sitemap-entry-broken", key="sitemap"),
                Item("Canonicals name the live addresses", known_by="check.index-canonical-broken", key="canonicals"),
            ),
            "Pages": (
                Item("Titles and descriptions came along", "Compare ten important pages with the old site.", key="texts"),
                Item("Structured data came along", key="structured"),
                Item("Pictures have their alternative texts", known_by="check.media-alt-missing", key="alt"),
                Item("No filler text is left", "Search for the usual ones, and for the agency's own notes.", key="filler"),
                Item("Pages in several languages name each other", known_by="check.lang-alt-no-return", key="languages"),
            ),
            "Measuring": (
                Item("Visits are counted, once", "Open a page and look what is sent. Two counters count twice.", key="counted"),
                Item("Forms, calls and purchases are counted", "Make one of each.", key="goals"),
                Item("The verification of search tools is in place", "The file or the tag, for everybody who needs it.", key="verified"),
                Item("A day before the change is noted as a remark", "So that a jump can be explained in a year.", key="remark"),
            ),
            "Ready": (
                Item("Somebody is there for the two days after", "Who can change the server, and who decides to go back.", key="people"),
                Item("The way back has been tried", "Restore last night's copy somewhere.", key="way-back"),
                Item("Certificate and domain hold for the next three months", known_by="check.secure-expiring", key="certificate"),
            ),
        },
    ),
}  # fmt: skip
