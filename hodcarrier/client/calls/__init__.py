"""The calls of the client library, written from the operations by `make docs`."""
