"""Who holds lasers armed, and until when: a lease that the browser that armed renews, or a moment that was named.

Lives in the engine only and is not kept: after a start every laser is safe.
"""

from __future__ import annotations

from dataclasses import dataclass, field

LEASE_S = 10.0
"""A browser that has not renewed for so long is gone, or nobody can reach it any more."""

STAYS_MAX_S = 24 * 3600.0
"""The longest that lasers can be said to stay armed without anybody's browser."""

LEASES_MAX = 64


@dataclass(slots=True)
class Lease:
    """`renewed_ns` on the steady clock; `until_s`: seconds of the wall clock (Unix time), None: as long as renewed."""

    fixtures: frozenset[str]
    renewed_ns: int
    until_s: float | None = None

    def is_over(self, now_ns: int, wall_s: float) -> bool:
        if self.until_s is not None:
            return wall_s >= self.until_s
        return now_ns - self.renewed_ns > LEASE_S * 1e9


@dataclass(slots=True)
class Leases:
    """Leases by the token of the browser that holds them. Call it between frames only."""

    held: dict[str, Lease] = field(default_factory=dict)

    def take(self, token: str, fixtures: frozenset[str], now_ns: int, until_s: float | None) -> None:
        """The lease of these fixtures goes over to `token`, whoever held them."""
        for other in self.held.values():
            other.fixtures -= fixtures
        self.held[token] = Lease(fixtures, now_ns, until_s)
        self.keep(frozenset().union(*(lease.fixtures for lease in self.held.values())))

    def renew(self, token: str, now_ns: int) -> bool:
        """False where nothing is held under it (any more)."""
        lease = self.held.get(token)
        if lease is None:
            return False
        lease.renewed_ns = now_ns
        return True

    def keep(self, armed: frozenset[str]) -> None:
        """Only these are armed still."""
        for lease in self.held.values():
            lease.fixtures &= armed
        self.held = {token: lease for token, lease in self.held.items() if lease.fixtures}

    def over(self, now_ns: int, wall_s: float) -> frozenset[str]:
        """Fixtures whose lease has ended."""
        if not self.held:
            return frozenset()
        gone = [lease.fixtures for lease in self.held.values() if lease.is_over(now_ns, wall_s)]
        return frozenset().union(*gone)

    def until(self) -> float | None:
        """The last moment named, None where every lease needs its browser."""
        named = [lease.until_s for lease in self.held.values() if lease.until_s is not None]
        return max(named, default=None)
