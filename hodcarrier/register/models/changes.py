"""How often what lists show has changed."""

from __future__ import annotations

from sqlalchemy.orm import Mapped, mapped_column

from hodcarrier.core.states import Noun
from hodcarrier.register.models.base import Base


class ChangeCount(Base):
    """A number for each noun that grows whenever one of its records is made, changed or removed. Triggers of the database count, so that no change
    is missed, whichever process made it."""

    __tablename__ = "change_count"
    noun: Mapped[Noun] = mapped_column(primary_key=True)
    number: Mapped[int] = mapped_column(default=0)
