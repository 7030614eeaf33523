"""What is kept of a secret that only its bearer knows: enough to know it again, and no more."""

import hashlib


def digest(token: str) -> str:
    """SHA-256 of a token, in hexadecimal. Tokens of ours are random and long, so that no salt is needed."""
    return hashlib.sha256(token.encode()).hexdigest()
