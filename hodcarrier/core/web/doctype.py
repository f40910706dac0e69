"""Which documents browsers draw in quirks mode (WHATWG HTML, 13.2.6.4.1: the "initial" insertion mode)."""

from __future__ import annotations

import re

# Comments, and what is taken for one, such as an XML declaration. Possessive: a page that begins with many comments must not be tried in every
# way to divide them.
_BEFORE = re.compile(r"(?>\s|<!--(?>-?>|(?s:.*?)(?:--!?>|\Z))|<\?[^>]*>|<!(?!doctype|--)[^>]*>)*+", re.I)
_DOCTYPE = re.compile(
    r"<!doctype\s*([^\s>]*)\s*(?:public\s*(?:\"([^\">]*)\"|'([^'>]*)')\s*(?:\"([^\">]*)\"|'([^'>]*)')?"
    r"|system\s*(?:\"([^\">]*)\"|'([^'>]*)'))?",
    re.I,
)
_QUIRKY = frozenset({"-//w3o//dtd w3 html strict 3.0//en//", "-/w3c/dtd html 4.0 transitional/en", "html"})
_QUIRKY_SYSTEM = "http://www.ibm.com/data/dtd/v11/ibmxhtml1-transitional.dtd"
_QUIRKY_BEGINNINGS = (
    "+//silmaril//dtd html pro v0r11 19970101//",
    "-//as//dtd html 3.0 aswedit + extensions//",
    "-//advasoft ltd//dtd html 3.0 aswedit + extensions//",
    "-//ietf//dtd html 2.0 level 1//",
    "-//ietf//dtd html 2.0 level 2//",
    "-//ietf//dtd html 2.0 strict level 1//",
    "-//ietf//dtd html 2.0 strict level 2//",
    "-//ietf//dtd html 2.0 strict//",
    "-//ietf//dtd html 2.0//",
    "-//ietf//dtd html 2.1e//",
    "-//ietf//dtd html 3.0//",
    "-//ietf//dtd html 3.2 final//",
    "-//ietf//dtd html 3.2//",
    "-//ietf//dtd html 3//",
    "-//ietf//dtd html level 0//",
    "-//ietf//dtd html level 1//",
    "-//ietf//dtd html level 2//",
    "-//ietf//dtd html level 3//",
    "-//ietf//dtd html strict level 0//",
    "-//ietf//dtd html strict level 1//",
    "-//ietf//dtd html strict level 2//",
    "-//ietf//dtd html strict level 3//",
    "-//ietf//dtd html strict//",
    "-//ietf//dtd html//",
    "-//metrius//dtd metrius presentational//",
    "-//microsoft//dtd internet explorer 2.0 html strict//",
    "-//microsoft//dtd internet explorer 2.0 html//",
    "-//microsoft//dtd internet explorer 2.0 tables//",
    "-//microsoft//dtd internet explorer 3.0 html strict//",
    "-//microsoft//dtd internet explorer 3.0 html//",
    "-//microsoft//dtd internet explorer 3.0 tables//",
    "-//netscape comm. corp.//dtd html//",
    "-//netscape comm. corp.//dtd strict html//",
    "-//o'reilly and associates//dtd html 2.0//",
    "-//o'reilly and associates//dtd html extended 1.0//",
    "-//o'reilly and associates//dtd html extended relaxed 1.0//",
    "-//sq//dtd html 2.0 hotmetal + extensions//",
    "-//softquad software//dtd hotmetal pro 6.0::19990601::extensions to html 4.0//",
    "-//softquad//dtd hotmetal pro 4.0::19971010::extensions to html 4.0//",
    "-//spyglass//dtd html 2.0 extended//",
    "-//sun microsystems corp.//dtd hotjava html//",
    "-//sun microsystems corp.//dtd hotjava strict html//",
    "-//w3c//dtd html 3 1995-03-24//",
    "-//w3c//dtd html 3.2 draft//",
    "-//w3c//dtd html 3.2 final//",
    "-//w3c//dtd html 3.2//",
    "-//w3c//dtd html 3.2s draft//",
    "-//w3c//dtd html 4.0 frameset//",
    "-//w3c//dtd html 4.0 transitional//",
    "-//w3c//dtd html experimental 19960712//",
    "-//w3c//dtd html experimental 970421//",
    "-//w3c//dtd w3 html//",
    "-//w3o//dtd w3 html 3.0//",
    "-//webtechs//dtd mozilla html 2.0//",
    "-//webtechs//dtd mozilla html//",
)
_QUIRKY_WITHOUT_SYSTEM = ("-//w3c//dtd html 4.01 frameset//", "-//w3c//dtd html 4.01 transitional//")


def doctype_of(text: str) -> tuple[bool, bool]:
    """Whether a document has a doctype where one counts, and whether browsers draw it in quirks mode."""
    before = _BEFORE.match(text, 1 if text.startswith("\ufeff") else 0)
    found = _DOCTYPE.match(text, before.end() if before else 0)
    if found is None:
        return False, True
    name, public, public_too, beside, beside_too, system, system_too = found.groups()
    public_id = (public if public is not None else public_too) or ""
    system_id = next((given for given in (beside, beside_too, system, system_too) if given is not None), None)
    return True, name.lower() != "html" or _is_quirky(public_id.lower(), system_id)


def _is_quirky(public: str, system: str | None) -> bool:
    if public in _QUIRKY or public.startswith(_QUIRKY_BEGINNINGS) or (system or "").lower() == _QUIRKY_SYSTEM:
        return True
    return system is None and public.startswith(_QUIRKY_WITHOUT_SYSTEM)
