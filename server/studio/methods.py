"""Methods of HTTP that change nothing (RFC 9110, section 9.2.1)."""

SAFE = ("GET", "HEAD", "OPTIONS")
