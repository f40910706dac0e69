"""Rules of the web: URLs, robots.txt, sitemaps, encodings, headers. Nothing here knows of checks or runs."""
