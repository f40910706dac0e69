"""One audit from plan to summary: by ``try`` in one process, by a worker of the service, or of a single page."""
