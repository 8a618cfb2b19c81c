#!/usr/bin/python3
"""Fits the judge of packages/core/src/music/level-judge.ts on what lab/training/hear-levels.mjs wrote.

A conditional logit (D. McFadden, 1974): each level of a piece gets a value, linear in its cues, and the chance of a level is
its share of the exponentials. Where several levels are right alike, as where a path is nearly another, they share the truth.

usage: judge-levels.py packages/core/src/music/level-weights.ts HEARD.json...
"""
import json
import sys

import numpy as np
import torch

RIDGE = 0.003
SHARPNESS = 12  # of how right a level is, F from 0 to 1, as a share of the truth
CLIP = 4  # standard deviations: what lies beyond says no more
CHECKED = 60  # pieces with the first numbers are only ever checked against

out, *paths = sys.argv[1:]
heard = [json.load(open(path)) for path in paths]
names = heard[0]["names"]
pieces = [p for h in heard for p in h["pieces"]]
cues = np.concatenate([[level["cues"] for level in p["levels"]] for p in pieces])
mean, spread = cues.mean(0), cues.std(0) + 1e-6
for p in pieces:
    p["x"] = torch.tensor(np.clip((np.array([level["cues"] for level in p["levels"]]) - mean) / spread, -CLIP, CLIP))
    p["right"] = torch.tensor([level["right"] for level in p["levels"]], dtype=torch.double)


def number(p):
    return int(p["name"][1:].rstrip("r"))


trained = [p for p in pieces if number(p) > CHECKED]
checked = [p for p in pieces if number(p) <= CHECKED]
weights = torch.zeros(len(names), dtype=torch.double, requires_grad=True)
optimiser = torch.optim.LBFGS([weights], max_iter=200)


def missed(of):
    return -sum((torch.softmax(SHARPNESS * p["right"], 0) * torch.log_softmax(p["x"] @ weights, 0)).sum() for p in of) / len(of)


def step():
    optimiser.zero_grad()
    loss = missed(trained) + RIDGE * (weights**2).sum()
    loss.backward()
    return loss


optimiser.step(step)
for name, of in (("trained", trained), ("checked", checked)):
    chosen = np.mean([float(p["right"][(p["x"] @ weights).argmax()]) for p in of])
    best = np.mean([float(p["right"].max()) for p in of])
    print(f"{name}: {len(of)} pieces, F chosen {chosen:.3f}, first {np.mean([float(p['right'][0]) for p in of]):.3f}, best {best:.3f}")
rows = [
    f"  [{m:.4f}, {s:.4f}, {w:.4f}], // {name}" for name, m, s, w in zip(names, mean, spread, weights.detach().tolist())
]
with open(out, "w") as file:
    file.write("/** By LEVEL_CUES: mean, spread and weight. Written by lab/training/judge-levels.py; not to be edited. */\n")
    file.write("export const LEVEL_WEIGHTS: readonly (readonly [mean: number, spread: number, weight: number])[] = [\n")
    file.write("\n".join(rows) + "\n];\n")
