#!/usr/bin/python3
"""Trains the beat network of packages/core/src/music/beat-network.ts on features written by training/listen.mjs.

A temporal convolutional network (M. Davies and S. Boeck, "Temporal convolutional networks for musical audio beat
tracking", EUSIPCO 2019): a frame's features pass a dense layer, then residual blocks of dilated convolutions, and come
out as the chance of a beat and of a downbeat. Needs Debian's python3-torch and python3-numpy.

usage: train.py FEATURES OUT.bin [STEPS [LEARNING-RATE [START]]]      START: weights to go on from, as they are committed
"""
import glob
import json
import math
import os
import sys
import time

import numpy as np
import torch
import torch.nn as nn
import torch.nn.functional as F

CHANNELS = 24
KERNEL = 5
DILATIONS = [1, 2, 4, 8, 16, 32, 64, 128, 256]
FPS = 50
CROP = 2000
BATCH = 12
VALIDATION = 60  # the pieces with the first numbers are never trained on

folder, out = sys.argv[1], sys.argv[2]
STEPS = int(sys.argv[3]) if len(sys.argv) > 3 else 3000
torch.set_num_threads(2)
SEED = int(os.environ.get("SEED", "1"))  # runs of different seeds can be averaged weight by weight
torch.manual_seed(SEED)
rng = np.random.default_rng(SEED)


class BeatNetwork(nn.Module):
    def __init__(self, width):
        super().__init__()
        self.register_buffer("mean", torch.zeros(width))
        self.register_buffer("scale", torch.ones(width))
        self.front = nn.Conv1d(width, CHANNELS, 1)
        self.dilated = nn.ModuleList(
            nn.Conv1d(CHANNELS, CHANNELS, KERNEL, dilation=d, padding=d * (KERNEL // 2)) for d in DILATIONS
        )
        self.mixed = nn.ModuleList(nn.Conv1d(CHANNELS, CHANNELS, 1) for _ in DILATIONS)
        self.head = nn.Conv1d(CHANNELS, 2, 1)

    def forward(self, x, drop=0.0):
        x = (x - self.mean[None, :, None]) * self.scale[None, :, None]
        x = F.relu(self.front(x))
        for dilated, mixed in zip(self.dilated, self.mixed):
            y = F.relu(dilated(x))
            if drop > 0:
                y = F.dropout(y, drop)
            x = x + mixed(y)
        return self.head(F.relu(x))


def load(path):
    about = json.load(open(path))
    data = np.fromfile(path.replace(".json", ".u16"), dtype="<u2").reshape(-1, about["width"])
    return about, data


def targets(times, start, count, stretch):
    """Triangles of two frames to each side of the times; frame i lies at (start + i * stretch) / FPS seconds."""
    t = np.zeros(count, dtype=np.float32)
    for time_ in times:
        centre = (time_ * FPS - start) / stretch
        for i in range(max(0, math.ceil(centre - 2)), min(count, math.floor(centre + 2) + 1)):
            t[i] = max(t[i], 1 - abs(i - centre) / 2)
    return t


def crop(piece, training):
    about, data = piece
    stretch = math.exp(rng.uniform(-0.16, 0.16)) if training else 1.0
    need = int(CROP * stretch) + 2
    start = int(rng.integers(-200, max(1, len(data) - need + 200))) if training else 0
    at = start + np.arange(CROP) * stretch
    inside = (at >= 0) & (at < len(data) - 1)
    at = np.clip(at, 0, len(data) - 1.001)
    low = at.astype(int)
    part = (at - low).astype(np.float32)[:, None]
    x = data[low] * (1 - part) + data[low + 1] * part
    x = (x / 16384.0).astype(np.float32)
    x[~inside] = 0
    if training:
        shift = int(rng.integers(-2, 3))  # in pairs of level bands: two semitones each way
        levels, rises = x[:, : about["P"]], x[:, about["P"] :]
        levels = np.roll(levels, 2 * shift, axis=1)
        rises = np.roll(rises, shift, axis=1)
        x = np.concatenate([levels, rises], axis=1)
        x *= rng.uniform(0.8, 1.2)
        if rng.random() < 0.2:  # a missing stretch of the spectrum
            a = int(rng.integers(0, 25))
            b = a + int(rng.integers(2, 8))
            x[:, 2 * a : 2 * b] *= 0.3
            x[:, about["P"] + a : about["P"] + b] *= 0.3
    beats = targets(about["beats"], start, CROP, stretch)
    bars = targets(about["bars"], start, CROP, stretch)
    return x.T, np.stack([beats, bars])


known = {}


def rescan():
    for path in glob.glob(os.path.join(folder, "f*.json")):
        if path not in known:
            try:
                known[path] = load(path)
            except (ValueError, FileNotFoundError):
                pass  # being written


def number(path):
    return int(os.path.basename(path)[1:-5].rstrip("r"))


def loss_of(logits, target):
    beat = F.binary_cross_entropy_with_logits(logits[:, 0], target[:, 0])
    bar = F.binary_cross_entropy_with_logits(logits[:, 1], target[:, 1])
    return beat + 1.5 * bar, beat, bar


def save(model):
    """Little-endian: int32 counts (width, channels, kernel, blocks), then float32 weights in the order they are used."""
    parts = [np.array([model.mean.numel(), CHANNELS, KERNEL, len(DILATIONS)], dtype="<i4").tobytes()]

    def put(weight, bias):
        wide = torch.zeros(CHANNELS, weight.shape[1], weight.shape[2])
        wide[: weight.shape[0]] = weight
        tall = torch.zeros(CHANNELS)
        tall[: len(bias)] = bias
        parts.append(wide.permute(2, 1, 0).contiguous().numpy().astype("<f4").tobytes())  # tap, in, out
        parts.append(tall.numpy().astype("<f4").tobytes())

    with torch.no_grad():
        # Mean and scale of the features go into the first layer.
        weight = model.front.weight * model.scale[None, :, None]
        put(weight, model.front.bias - (weight[:, :, 0] * model.mean[None, :]).sum(1))
        for dilated, mixed in zip(model.dilated, model.mixed):
            put(dilated.weight, dilated.bias)
            put(mixed.weight, mixed.bias)
        put(model.head.weight, model.head.bias)
    open(out, "wb").write(b"".join(parts))
    torch.save(model.state_dict(), out + ".pt")


def start_from(model, path):
    """Takes up weights as save() writes them; mean and scale, which lie in the first layer there, come out of it again."""
    width, channels, kernel, blocks = np.fromfile(path, dtype="<i4", count=4)
    assert (width, channels, kernel, blocks) == (model.mean.numel(), CHANNELS, KERNEL, len(DILATIONS)), "another network's weights"
    values = np.fromfile(path, dtype="<f4", offset=16)
    at = 0

    def take(layer):
        nonlocal at
        tall, wide, taps = layer.weight.shape
        whole = values[at : at + taps * wide * CHANNELS].reshape(taps, wide, CHANNELS)
        at += whole.size
        layer.weight.copy_(torch.tensor(whole.transpose(2, 1, 0)[:tall].copy()))
        layer.bias.copy_(torch.tensor(values[at : at + CHANNELS][:tall].copy()))
        at += CHANNELS

    with torch.no_grad():
        take(model.front)
        model.front.bias += (model.front.weight[:, :, 0] * model.mean[None, :]).sum(1)
        model.front.weight /= model.scale[None, :, None]
        for dilated, mixed in zip(model.dilated, model.mixed):
            take(dilated)
            take(mixed)
        take(model.head)
    assert at == values.size


rescan()
width = next(iter(known.values()))[0]["width"]
model = BeatNetwork(width)
sample = np.concatenate([d[::7] for _, d in list(known.values())[:150]]) / 16384.0
model.mean.copy_(torch.tensor(sample.mean(0), dtype=torch.float32))
model.scale.copy_(torch.tensor(1 / (sample.std(0) + 0.02), dtype=torch.float32))
if os.path.exists(out + ".start"):
    model.load_state_dict(torch.load(out + ".start"))
if len(sys.argv) > 5:
    start_from(model, sys.argv[5])
optimiser = torch.optim.AdamW(model.parameters(), lr=3e-3, weight_decay=1e-4)
RATE = float(sys.argv[4]) if len(sys.argv) > 4 else 4e-3
schedule = torch.optim.lr_scheduler.OneCycleLR(optimiser, RATE, STEPS, pct_start=0.1)
print("parameters", sum(p.numel() for p in model.parameters()), "pieces", len(known), flush=True)
started = time.time()
sums = np.zeros(3)
for step in range(1, STEPS + 1):
    if step % 100 == 0:
        rescan()
    training = [p for p in known if number(p) > VALIDATION]
    batch = [crop(known[training[i]], True) for i in rng.integers(0, len(training), BATCH)]
    x = torch.tensor(np.stack([b[0] for b in batch]))
    y = torch.tensor(np.stack([b[1] for b in batch]))
    loss, beat, bar = loss_of(model(x, 0.1), y)
    optimiser.zero_grad()
    loss.backward()
    nn.utils.clip_grad_norm_(model.parameters(), 1.0)
    optimiser.step()
    schedule.step()
    sums += [loss.item(), beat.item(), bar.item()]
    if step % 100 == 0:
        with torch.no_grad():
            checks = [crop(known[p], False) for p in known if number(p) <= VALIDATION]
            x = torch.tensor(np.stack([b[0] for b in checks]))
            y = torch.tensor(np.stack([b[1] for b in checks]))
            _, vbeat, vbar = loss_of(model(x), y)
        print(f"{step} pieces {len(training)} beat {sums[1]/100:.4f} bar {sums[2]/100:.4f} | check beat {vbeat:.4f} bar {vbar:.4f} | {time.time()-started:.0f} s", flush=True)
        sums[:] = 0
        save(model)
