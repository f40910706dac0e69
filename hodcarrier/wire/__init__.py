"""Request and response models of the HTTP interface, shared by service and client."""
