"""The day's model written once more, from its description alone, and integrated by an implicit method for stiff equations.

Reads a JSON list of days on standard input, prints the charge of each battery at each day's end. One bus, one battery.
Source of the method: Hairer and Wanner, Radau IIA of order 5, as in scipy.integrate.
"""
import json
import math
import sys

from scipy.integrate import solve_ivp
from scipy.optimize import brentq

EMPTY = 0.8


def rest(cell, s):
    shares, volts = cell["shares"], cell["volts"]
    for i in range(1, len(shares)):
        if s <= shares[i] or i == len(shares) - 1:
            f = (s - shares[i - 1]) / (shares[i] - shares[i - 1])
            return volts[i - 1] + f * (volts[i] - volts[i - 1])


def loads(seg, v):
    least = seg["leastV"]
    if v >= least:
        a = seg["power"] / v + seg["amps"]
    else:
        a = seg["power"] * v / least**2 + seg["amps"] * v / least
    a += seg["siemens"] * v
    if seg["filament"] > 0 and v > 0:
        a += seg["filament"] * v**0.6
    return a


def into(cell, q, v):
    """Amperes into the battery at its terminals' volts."""
    s = min(1.0, max(0.0, (q - cell["floorAh"]) / (cell["capacityAh"] - cell["floorAh"])))
    charge = min(1.0, max(0.0, q / cell["capacityAh"]))
    e = rest(cell, charge)
    give = cell["ohms"] * (1 + EMPTY * (1 - s) ** 2)
    if v >= e:
        if cell["accept"] == 0:
            return 0.0
        return (v - e) / (give + 1 / (cell["accept"] * max(1e-6, 1 - charge)))
    return (v - e) / give


def current(seg, q):
    cell = seg["cell"]

    def lack(v, source):
        return source - loads(seg, v) - into(cell, q, v)

    if seg["sourceA"] > 0:
        wanted = -lack(seg["regulatedV"], 0)
        if 0 <= wanted <= seg["sourceA"]:
            return into(cell, q, seg["regulatedV"])
        if wanted > seg["sourceA"]:
            v = highest(lambda x: lack(x, seg["sourceA"]), seg["regulatedV"])
            return into(cell, q, v)
    charge = min(1.0, max(0.0, q / cell["capacityAh"]))
    return into(cell, q, highest(lambda x: lack(x, 0), rest(cell, charge)))


def highest(f, top):
    """The highest root under `top`, where f is negative or nil."""
    if f(top) > 0:
        raise ValueError("no root under the top")
    step = top / 400
    high = top
    while high > 0:
        low = max(1e-9, high - step)
        if f(low) > 0:
            return brentq(f, low, high, xtol=1e-13, rtol=1e-14)
        high = low
        if low <= 1e-9:
            break
    raise ValueError("no root")


def rate(seg, q):
    cell = seg["cell"]
    a = current(seg, q)
    if a >= 0:
        stored = a * cell["efficiency"]
    elif -a > cell["ratedA"]:
        stored = a * (-a / cell["ratedA"]) ** cell["peukertLess1"]
    else:
        stored = a
    return stored - (cell["selfA"] * min(1.0, q * 1000 / cell["capacityAh"]) if q > 0 else 0.0)


def day(d):
    q = d["charge"]
    for seg in d["segments"]:
        r = solve_ivp(lambda t, y: [rate(seg, y[0])], (0, seg["hours"]), [q], method="Radau", rtol=1e-8, atol=1e-9, max_step=seg["hours"] / 4)
        if not r.success:
            raise RuntimeError(r.message)
        q = float(r.y[0][-1])
    return q


print(json.dumps([day(d) for d in json.load(sys.stdin)]))
