"""This machine on the site's network: its names there."""

from __future__ import annotations

import ipaddress
import socket
from contextlib import suppress


def is_this_machine(host: str) -> bool:
    """Whether an address to listen on is reached from this machine alone."""
    if host == "localhost":
        return True
    with suppress(ValueError):
        return ipaddress.ip_address(host).is_loopback
    return False


def names_of(host: str) -> list[str]:
    """The names under which others ask for what listens there, an address before a name."""
    with suppress(ValueError):
        if not ipaddress.ip_address(host).is_unspecified:
            return [host]
        own = socket.gethostname()
        found = [*_outward(":" in host), *_named(own, ":" in host), own, "127.0.0.1"]
        return list(dict.fromkeys(found))
    return [host]


def _named(name: str, six: bool) -> list[str]:
    family = socket.AF_INET6 if six else socket.AF_INET
    with suppress(OSError):
        found = [str(info[4][0]) for info in socket.getaddrinfo(name, None, family)]
        return [one for one in found if not ipaddress.ip_address(one).is_loopback]
    return []


def _outward(six: bool) -> list[str]:
    """The address from which this machine would ask others; nothing is sent to find it."""
    family, far = (socket.AF_INET6, "2001:db8::1") if six else (socket.AF_INET, "192.0.2.1")
    with suppress(OSError), socket.socket(family, socket.SOCK_DGRAM) as probe:
        # A datagram socket that connects only looks up the way (RFC 5737 names that network).
        probe.connect((far, 9))
        return [str(probe.getsockname()[0])]
    return []


def in_address(name: str) -> str:
    """A name as it stands in an address: one of IPv6 in brackets."""
    return f"[{name}]" if ":" in name else name
