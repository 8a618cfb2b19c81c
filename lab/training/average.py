#!/usr/bin/python3
"""The mean of the weights of several runs that went on from the same ones (M. Wortsman et al., "Model soups", ICML 2022). It did
better than each of the first two runs on mixtures, and no better than the later of the next two: measure it.

usage: average.py OUT.bin A.bin B.bin ...
"""
import sys

import numpy as np

HEADER = 16

out, *runs = sys.argv[1:]
heads = [open(run, "rb").read(HEADER) for run in runs]
assert all(head == heads[0] for head in heads), "weights of different networks"
weights = np.mean([np.fromfile(run, dtype="<f4", offset=HEADER).astype("f8") for run in runs], axis=0)
open(out, "wb").write(heads[0] + weights.astype("<f4").tobytes())
