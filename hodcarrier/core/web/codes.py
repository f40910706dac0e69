"""Codes that structured data is written with: currencies (ISO 4217), countries (ISO 3166-1), moments and durations (ISO 8601)."""

from __future__ import annotations

import re
from datetime import date

from hodcarrier.core.web import languages

_CODE = re.compile(r"[A-Z]+")
# Currencies in use, with those that were replaced in the last years and still stand on pages.
CURRENCIES = frozenset(
    _CODE.findall(
        "AED AFN ALL AMD ANG AOA ARS AUD AWG AZN BAM BBD BDT BGN BHD BIF BMD BND BOB BRL BSD BTN BWP BYN BZD CAD CDF CHF CLF "
        "CLP CNY COP CRC CUP CVE CZK DJF DKK DOP DZD EGP ERN ETB EUR FJD FKP GBP GEL GHS GIP GMD GNF GTQ GYD HKD HNL HRK HTG "
        "HUF IDR ILS INR IQD IRR ISK JMD JOD JPY KES KGS KHR KMF KPW KRW KWD KYD KZT LAK LBP LKR LRD LSL LYD MAD MDL MGA MKD "
        "MMK MNT MOP MRU MUR MVR MWK MXN MYR MZN NAD NGN NIO NOK NPR NZD OMR PAB PEN PGK PHP PKR PLN PYG QAR RON RSD RUB RWF "
        "SAR SBD SCR SDG SEK SGD SHP SLE SLL SOS SRD SSP STN SVC SYP SZL THB TJS TMT TND TOP TRY TTD TWD TZS UAH UGX USD UYU "
        "UZS VED VES VND VUV WST XAF XCD XCG XOF XPF YER ZAR ZMW ZWG ZWL "
    )
)
COUNTRIES = frozenset(code.upper() for code in languages.COUNTRIES) | {"XK"}
_MOMENT = re.compile(
    r"(?P<year>[+-]?\d{4})(?:-?(?P<month>\d{2})(?:-?(?P<day>\d{2}))?|-W\d{2}(?:-\d)?|-\d{3})?"
    r"(?:[T ]\d{2}(?::?\d{2}(?::?\d{2}(?:[.,]\d+)?)?)?(?:Z|[+-]\d{2}(?::?\d{2})?)?)?"
)
_TIME = re.compile(r"T?\d{2}:?\d{2}(?::?\d{2}(?:[.,]\d+)?)?(?:Z|[+-]\d{2}(?::?\d{2})?)?")
_DURATION = re.compile(r"-?P(?=.)(?:\d+(?:[.,]\d+)?[YMWD])*(?:T(?=\d)(?:\d+(?:[.,]\d+)?[HMS])+)?")
NUMBER = re.compile(r"[+-]?(?:\d+(?:\.\d+)?|\.\d+)(?:[eE][+-]?\d+)?")


def is_moment(text: str) -> bool:
    """Whether a text is a date, or a date with a time, that the calendar has."""
    found = _MOMENT.fullmatch(text)
    if found is None:
        return False
    try:
        date(max(1, abs(int(found["year"]))), int(found["month"] or 1), int(found["day"] or 1))
    except ValueError:
        return False
    return True


def is_time(text: str) -> bool:
    """Whether a text is a time of the day."""
    return _TIME.fullmatch(text) is not None


def is_duration(text: str) -> bool:
    """Whether a text is a duration, such as ``PT1H30M``."""
    return _DURATION.fullmatch(text) is not None
