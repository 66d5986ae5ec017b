"""Fits measured curves with SciPy, to check core/model/series against another library.

Run by hand: python3 tools/reference/curvefit.py > core/model/series/testdata/reference.json
Made with Debian's python3-scipy 1.10.1 and python3-numpy 1.24.2. The model is written here
a second time on purpose: the charge balance is solved for pH by Brent's method at each
volume, and not explicitly in the volume as in core/model/series.
"""
import json

import numpy
import scipy
from scipy.optimize import brentq, least_squares

PKW = 13.995
FLASK, C = 25.0, 0.1


def acid(volume, end, offset, pkas):
    """pH of an acid with these pKa values, of which all protons are titrated at the end."""
    n = len(pkas)
    amount = C * end / n
    total = FLASK + volume

    def balance(ph):
        h = 10.0**-ph
        terms = [1.0]
        for k in pkas:
            terms.append(terms[-1] * 10.0**-k / h)
        lost = sum(i * t for i, t in enumerate(terms)) / sum(terms)
        return C * volume / total + h - 10.0 ** (ph - PKW) - amount / total * lost

    return brentq(balance, -2, 16, xtol=1e-12) + offset


def redox(volume, end, e1, e2):
    """Potential, mV, of two couples of one electron."""
    s = 0.198416 * 298.15

    def balance(e):
        return end / (1 + 10 ** ((e1 - e) / s)) - volume / (1 + 10 ** ((e - e2) / s))

    return brentq(balance, 0, 2500, xtol=1e-10)


def fit(model, volumes, readings, start, step):
    def rest(p):
        return [r - model(v, p) for v, r in zip(volumes, readings)]

    got = least_squares(rest, start, method="lm", x_scale=step, xtol=1e-12, ftol=1e-12, gtol=1e-12)
    freedom = len(volumes) - len(start)
    variance = 2 * got.cost / freedom
    covariance = numpy.linalg.inv(got.jac.T @ got.jac) * variance
    return {"values": [float(x) for x in got.x], "standard": [float(x) for x in numpy.sqrt(numpy.diag(covariance))], "noise": float(variance**0.5)}


def main():
    random = numpy.random.default_rng(2026)
    out = {"made": f"scipy {scipy.__version__}, numpy {numpy.__version__}", "runs": []}

    def run(name, model, truth, start, step, noise, volumes):
        readings = [round(float(model(v, truth) + noise * random.standard_normal()), 4) for v in volumes]
        out["runs"].append({"name": name, "volumes": list(volumes), "readings": readings, **fit(model, volumes, readings, start, step)})

    v = [round(float(x), 2) for x in list(numpy.arange(0.5, 19, 1.5)) + list(numpy.arange(19, 21.6, 0.2)) + list(numpy.arange(22, 30, 1))]
    run("weak", lambda x, p: acid(x, p[0], p[1], [p[2]]), [20.37, 0.04, 4.21], [20, 0, 4.5], [1, 0.1, 0.1], 0.012, v)
    v = [round(float(x), 2) for x in numpy.arange(0.5, 32, 0.5)]
    run("two", lambda x, p: acid(x, p[0], p[1], [p[2], p[3]]), [22.6, -0.03, 3.1, 6.9], [22, 0, 3, 7], [1, 0.1, 0.1, 0.1], 0.015, v)
    v = [round(float(x), 2) for x in list(numpy.arange(1, 23, 1.5)) + list(numpy.arange(23, 25.2, 0.2)) + list(numpy.arange(26, 34, 1.5))]
    run("redox", lambda x, p: redox(x, *p), [24.11, 683.0, 1442.0], [24, 650, 1400], [1, 10, 10], 0.9, v)
    print(json.dumps(out, indent=1))


main()
