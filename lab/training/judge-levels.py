#!/usr/bin/python3
"""Fits the judge of packages/core/src/music/level-judge.ts on what lab/training/hear-levels.mjs wrote.

A conditional logit (D. McFadden, 1974): each level of a piece gets a value from its cues, and the chance of a level is its share
of the exponentials. The value is linear in the cues and in a few bent sums of them; several such judges, from other starts, are
put side by side as one. Where several levels are right alike, as where a path is nearly another, they share the truth.

usage: judge-levels.py packages/core/src/music/level-weights.ts HEARD.json...
"""
import json
import sys

import numpy as np
import torch

JUDGES = 3
BENT = 12  # sums of a judge
EPOCHS, BATCH, RATE, DECAY, DROP = 25, 16, 3e-3, 1e-2, 0.3
SHARPNESS = 12  # of how right a level is, F from 0 to 1, as a share of the truth
CLIP = 4  # standard deviations: what lies beyond says no more
CHECKED = 60  # pieces with the first numbers are only ever checked against

torch.set_num_threads(1)
out, *paths = sys.argv[1:]
heard = [json.load(open(path)) for path in paths]
names = heard[0]["names"]
pieces = sorted((p for h in heard for p in h["pieces"]), key=lambda p: p["name"])
cues = np.concatenate([[level["cues"] for level in p["levels"]] for p in pieces])
mean, spread = cues.mean(0), cues.std(0) + 1e-6
for p in pieces:
    x = (np.array([level["cues"] for level in p["levels"]]) - mean) / spread
    p["x"] = torch.tensor(np.clip(x, -CLIP, CLIP)).float()
    p["right"] = torch.tensor([level["right"] for level in p["levels"]]).float()
    p["truth"] = torch.softmax(SHARPNESS * p["right"], 0)


def number(p):
    return int(p["name"][1:].rstrip("r"))


trained = [p for p in pieces if number(p) > CHECKED]
checked = [p for p in pieces if number(p) <= CHECKED]


class Judge(torch.nn.Module):
    def __init__(self):
        super().__init__()
        self.inner = torch.nn.Linear(len(names), BENT)
        self.outer = torch.nn.Linear(BENT, 1, bias=False)
        self.straight = torch.nn.Linear(len(names), 1, bias=False)

    def forward(self, x):
        bent = torch.nn.functional.dropout(torch.tanh(self.inner(x)), DROP, self.training)
        return (self.outer(bent) + self.straight(x))[:, 0]


def fitted(seed):
    torch.manual_seed(seed)
    judge = Judge()
    optimiser = torch.optim.AdamW(judge.parameters(), lr=RATE, weight_decay=DECAY)
    for _ in range(EPOCHS):
        order = torch.randperm(len(trained)).tolist()
        for at in range(0, len(order), BATCH):
            batch = [trained[i] for i in order[at : at + BATCH]]
            loss = -sum((p["truth"] * torch.log_softmax(judge(p["x"]), 0)).sum() for p in batch) / len(batch)
            optimiser.zero_grad()
            loss.backward()
            optimiser.step()
    return judge.eval()


judges = [fitted(seed) for seed in range(JUDGES)]
with torch.no_grad():
    for name, of in (("trained", trained), ("checked", checked)):
        chosen = np.mean([float(p["right"][sum(j(p["x"]) for j in judges).argmax()]) for p in of])
        first, best = (np.mean([float(f(p["right"])) for p in of]) for f in (lambda r: r[0], lambda r: r.max()))
        print(f"{name}: {len(of)} pieces, F chosen {chosen:.3f}, of the likeliest path {first:.3f}, best {best:.3f}")
    straight = sum(j.straight.weight[0] for j in judges) / JUDGES
    inner = torch.cat([j.inner.weight for j in judges])
    bias = torch.cat([j.inner.bias for j in judges])
    outer = torch.cat([j.outer.weight[0] for j in judges]) / JUDGES


def numbers(values):
    return "[" + ", ".join(f"{float(v):.4f}" for v in values) + "]"


with open(out, "w") as file:
    file.write("/** Written by lab/training/judge-levels.py; not to be edited. Cues in the order of LEVEL_CUES. */\n")
    file.write("export const LEVEL_WEIGHTS = {\n")
    file.write(f"  mean: {numbers(mean)},\n  spread: {numbers(spread)},\n  straight: {numbers(straight)},\n")
    file.write(f"  bias: {numbers(bias)},\n  outer: {numbers(outer)},\n")
    file.write("  inner: [\n" + "".join(f"    {numbers(row)},\n" for row in inner) + "  ],\n};\n")
