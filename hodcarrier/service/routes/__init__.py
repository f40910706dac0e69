"""The routes by noun: thin. Each reads its request, calls one use case, and gives back a wire model."""

from hodcarrier.service.routes import (
    catalogue,
    clients,
    exports,
    feeds,
    figures,
    files,
    inventory,
    mail,
    pages,
    people,
    plans,
    profiles,
    reports,
    runs,
    setups,
    sheets,
    sitemaps,
    sites,
    structure,
    todos,
    webhooks,
    work,
)

ROUTERS = tuple(
    module.router
    for module in (
        people,
        clients,
        setups,
        sites,
        plans,
        profiles,
        runs,
        exports,
        inventory,
        pages,
        figures,
        feeds,
        sheets,
        structure,
        sitemaps,
        todos,
        work,
        reports,
        mail,
        webhooks,
        files,
        catalogue,
    )
)
