"""Language tags (RFC 5646) and the codes of hreflang annotations (ISO 639-1, ISO 15924, ISO 3166-1)."""

from __future__ import annotations

import re

# Grammar of RFC 5646, 2.1, without the irregular tags of old.
_TAG = re.compile(
    r"(?:[a-z]{2,3}(?:-[a-z]{3}){0,3}|[a-z]{4})(?:-[a-z]{4})?(?:-(?:[a-z]{2}|\d{3}))?(?:-(?:[a-z0-9]{5,8}|\d[a-z0-9]{3}))*"
    r"(?:-[0-9a-wy-z](?:-[a-z0-9]{2,8})+)*(?:-x(?:-[a-z0-9]{1,8})+)?|x(?:-[a-z0-9]{1,8})+",
    re.I,
)
_HREFLANG = re.compile(r"([a-z]{2})(?:-([a-z]{4}))?(?:-([a-z]{2}))?", re.I)
# Two letters each.
_OF_LANGUAGES = (
    "aaabaeafakamanarasavayazbabebgbhbibmbnbobrbscacechcocrcscucvcydadedvdzeeeleneoeseteufafffifjfofrfygagdglgngugv"
    "hahehihohrhthuhyhziaidieigiiikioisitiujajvkakgkikjkkklkmknkokrkskukvkwkylalblglilnloltlulvmgmhmimkmlmnmrmsmtmy"
    "nanbndnengnlnnnonrnvnyocojomorospapiplpsptqurmrnrorurwsascsdsesgsiskslsmsnsosqsrssstsusvswtatetgthtitktltntotr"
    "tstttwtyugukuruzvevivowawoxhyiyozazhzu"
)
_OF_COUNTRIES = (
    "adaeafagaialamaoaqarasatauawaxazbabbbdbebfbgbhbibjblbmbnbobqbrbsbtbvbwbybzcacccdcfcgchcickclcmcncocrcucvcwcxcy"
    "czdedjdkdmdodzeceeegeheresetfifjfkfmfofrgagbgdgegfggghgiglgmgngpgqgrgsgtgugwgyhkhmhnhrhthuidieiliminioiqirisit"
    "jejmjojpkekgkhkikmknkpkrkwkykzlalblclilklrlsltlulvlymamcmdmemfmgmhmkmlmmmnmompmqmrmsmtmumvmwmxmymznancnenfngni"
    "nlnonpnrnunzompapepfpgphpkplpmpnprpsptpwpyqarerorsrurwsasbscsdsesgshsisjskslsmsnsosrssstsvsxsysztctdtftgthtjtk"
    "tltmtntotrtttvtwtzuaugumusuyuzvavcvevgvivnvuwfwsyeytzazmzw"
)
_LANGUAGES, COUNTRIES = (
    frozenset(codes[at : at + 2] for at in range(0, len(codes), 2)) for codes in (_OF_LANGUAGES, _OF_COUNTRIES)
)


def is_tag(code: str) -> bool:
    """Whether a text is a well-formed language tag (RFC 5646, 2.2.9), of a language in two or three letters."""
    return bool(_TAG.fullmatch(code)) and not (len(code.partition("-")[0]) == 2 and code[:2].lower() not in _LANGUAGES)


def is_hreflang(code: str) -> bool:
    """Whether search engines know a code: a language of ISO 639-1, with a script and a country if need be, or ``x-default``."""
    found = _HREFLANG.fullmatch(code)
    if found is None:
        return code.lower() == "x-default"
    language, _, country = found.groups()
    return language.lower() in _LANGUAGES and (country is None or country.lower() in COUNTRIES)
