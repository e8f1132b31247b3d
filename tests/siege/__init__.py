"""What mistakes and malice can do to a server, in small for the tests and at length by `make siege`."""
