"""A pottery studio and the school it competes with."""

from __future__ import annotations

from hodcarrier.demo.pages import Page, Site, Theme
from hodcarrier.demo.sites.parts import describe, img, links, origin
from hodcarrier.demo.words import CLAY, paragraph, paragraphs


def pellow(edition: int) -> Site:
    """A pottery studio in three languages.

    4: Welsh is added without return links; 8: all but one class have them. 5: robots.txt shuts out what the pages are drawn with. 6: a picture grows
    too large. Its certificate nears its end.
    """
    host = "pellow-kiln.example"
    theme = Theme(
        "Pellow Kiln Studio",
        origin(host),
        [("Classes", "/classes/"), ("Studio", "/studio"), ("Journal", "/journal/"), ("Contact", "/contact")],
    )
    site = Site(theme, robots=f"User-agent: *\nDisallow: /account\nSitemap: {origin(host)}/sitemap.xml\n")
    site.certificate_days = 9
    if edition >= 5:
        site.robots = site.robots.replace("Disallow: /account", "Disallow: /account\nDisallow: /static/")
    classes = [
        "wheel for beginners",
        "hand building",
        "glazing",
        "raku day",
        "kiln care",
        "porcelain",
        "slab dishes",
        "coil pots",
        "salt firing",
    ]
    entries = []
    for name in classes:
        slug = name.replace(" ", "-")
        path = f"/classes/{slug}"
        entries.append((path, name.capitalize()))
        versions = [("en", origin(host) + path), ("fr", f"{origin(host)}/fr{path}")]
        if edition >= 4:
            versions.append(("cy", f"{origin(host)}/cy{path}"))
        site.add(
            Page(
                path,
                f"{name.capitalize()}: a class at Pellow Kiln",
                paragraphs(path, CLAY, 5),
                describe(path, CLAY),
                alternates=versions,
            )
        )
        site.add(
            Page(
                f"/fr{path}",
                f"Cours : {name} à Pellow Kiln",
                paragraphs("fr" + path, CLAY, 5),
                describe("fr" + path, CLAY),
                lang="fr",
                alternates=versions,
            )
        )
        if edition >= 4:
            back = versions if edition >= 8 and slug != "porcelain" else [("cy", f"{origin(host)}/cy{path}")]
            site.add(
                Page(
                    f"/cy{path}",
                    f"Dosbarth: {name} yn Pellow Kiln",
                    paragraphs("cy" + path, CLAY, 5),
                    describe("cy" + path, CLAY),
                    lang="cy",
                    alternates=back,
                )
            )
    languages = [("/fr/", "Français")] + ([("/cy/", "Cymraeg")] if edition >= 4 else [])
    for code, label in languages:
        listed = [(f"{code.rstrip('/')}{href}", text) for href, text in entries]
        site.add(
            Page(
                code,
                f"Pellow Kiln Studio, {label}",
                paragraphs(code, CLAY, 4) + links(listed),
                describe(code, CLAY),
                lang=code.strip("/"),
            )
        )
    site.add(
        Page(
            "/classes/",
            "Pottery classes at Pellow Kiln Studio",
            f"<p>{paragraph('classes', CLAY, 4)}</p>" + links(entries),
            describe("classes", CLAY),
        )
    )
    journal = [(f"/journal/note-{n}", f"Studio note {n}") for n in range(1, 25)]
    for n, (path, name) in enumerate(journal):
        heading = "<h3>Afterwards</h3>" if n % 3 == 0 else ""
        site.add(
            Page(
                path,
                f"{name} from the kiln | Pellow Kiln",
                paragraphs(path, CLAY, 4) + heading,
                describe(path, CLAY),
                data={"@type": "Article", "headline": name},
                broken_data=edition >= 6 and n == 2,
            )
        )
    site.add(
        Page(
            "/journal/",
            "Journal of the studio | Pellow Kiln",
            f"<p>{paragraph('journal', CLAY, 4)}</p>" + links(journal),
            describe("journal", CLAY),
        )
    )
    found_at = "<address>Pellow Kiln Studio, Mill Lane 3, Trewyn</address>"
    home = (
        paragraphs("pellow home", CLAY, 5)
        + found_at
        + links([*languages, ("/classes/", "All classes"), ("/journal/", "Journal")])
    )
    site.add(
        Page(
            "/",
            "Pellow Kiln Studio, pottery classes by the river",
            home,
            describe("pellow", CLAY),
            data={"@type": "Organization", "name": "Pellow Kiln Studio"},
        )
    )
    site.add(
        Page(
            "/studio",
            "The studio and its kilns | Pellow Kiln",
            paragraphs("studio", CLAY, 5) + img("/img/studio.png", None),
            describe("studio", CLAY),
        )
    )
    site.add(
        Page(
            "/contact",
            "How to reach the Pellow Kiln Studio",
            "<p>" + paragraph("contact", CLAY, 4) + "</p>",
            describe("reach", CLAY),
        )
    )
    site.picture("/img/studio.png", 70_000 + 25_000 * edition)
    return site


def clayfold(edition: int) -> Site:
    """A competitor whose evening school forbids zooming and hides a page it lists; never over https.

    4: it answers to any URL, and one page is endless; 7: it shuts everybody out; 10: all of it names another host as the real one.
    """
    here = "http://clayfold-school.example"
    theme = Theme(
        "Clayfold School",
        here,
        [("Courses", "/courses/"), ("Staff", "/staff"), ("Sign in", "/enter")],
        viewport="width=device-width, user-scalable=no",
        social=False,
        real="http://clayfold-pottery.example" if edition == 10 else "",
    )
    site = Site(theme, robots="User-agent: *\nDisallow: /admin\n", plain=("*",), certificate="none", any_url=edition == 4)
    if edition == 7:
        site.robots = "User-agent: *\nDisallow: /\n"
    items = [(f"/courses/{n}", f"Course {n}: the {CLAY['things'][n % 10]}") for n in range(1, 38 + edition)]
    for n, (path, name) in enumerate(items):
        robots = "noindex" if n == 3 else ""
        canonical = here + "/courses/gone" if n == 5 else None
        site.add(
            Page(
                path,
                f"{name} at Clayfold School",
                paragraphs(path, CLAY, 5),
                describe(path, CLAY),
                robots=robots,
                canonical=canonical,
            )
        )
    site.add(
        Page(
            "/courses/",
            "Courses at Clayfold School",
            f"<p>{paragraph('courses', CLAY, 5)}</p>" + links(items),
            describe("courses", CLAY),
        )
    )
    site.add(
        Page(
            "/staff",
            "The staff of Clayfold School",
            paragraphs("staff", CLAY, 5)
            + ("<p>" + "a " * 8_200_000 + "</p>" if edition == 4 else "<p>" + "a" * 210_000 + "</p>" if edition == 1 else ""),
            describe("staff", CLAY),
        )
    )
    door = '<form action="/account"><label>Password <input type="password" name="password"></label></form>'
    site.add(Page("/enter", "Sign in at Clayfold School", door + paragraphs("enter", CLAY, 4), describe("enter", CLAY)))
    site.add(Page("/lone", "A page that nothing links to", paragraphs("lone", CLAY, 5), describe("lone", CLAY)))
    site.add(
        Page(
            "/",
            "Clayfold School of pottery",
            paragraphs("clayfold", CLAY, 5),
            describe("clayfold", CLAY),
            robots="noindex" if edition == 4 else "",
            head='<link rel="canonical" href="/home">' if edition == 1 else "",
        )
    )
    return site
