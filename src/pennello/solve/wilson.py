"""The score interval of a share. Source: E. B. Wilson, Probable inference, the law of succession, and statistical
inference, Journal of the American Statistical Association 22 (1927) 209-212, doi:10.1080/01621459.1927.10502953.
"""

from __future__ import annotations

import math
from statistics import NormalDist

from pennello.errors import OutOfRangeError
from pennello.phrases import phrase


def wilson(successes: int, tries: int, confidence: float = 0.95) -> tuple[float, float]:
    """Return low and high of a share that held in so many of so many tries, in [0, 1].

    >>> tuple(round(end, 3) for end in wilson(92, 100))
    (0.85, 0.959)
    """
    if tries < 1 or not 0 <= successes <= tries:
        raise OutOfRangeError("successes", successes, phrase("0 to {tries}, of at least 1 try", tries=max(tries, 0)))
    if not 0 < confidence < 1:
        raise OutOfRangeError("confidence", confidence, "between 0 and 1")
    z = NormalDist().inv_cdf(0.5 + confidence / 2)
    share, spread = successes / tries, z * z / tries
    middle = (share + spread / 2) / (1 + spread)
    half = z / (1 + spread) * math.sqrt(share * (1 - share) / tries + spread / (4 * tries))
    return max(0.0, middle - half), min(1.0, middle + half)
