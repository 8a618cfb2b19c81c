#!/usr/bin/python3
"""Trains the beat network of packages/core/src/music/beat-network.ts on features written by lab/training/listen.mjs.

A temporal convolutional network (M. Davies and S. Boeck, "Temporal convolutional networks for musical audio beat
tracking", EUSIPCO 2019): a frame's features pass a dense layer, then residual blocks of dilated convolutions, and come
out as the chance of a beat and of a downbeat. While it is trained it also says the tempo, from the mean over the piece
(S. Boeck, M. Davies and P. Knees, "Multi-task learning of tempo and beat", ISMIR 2019); that part is not kept. What is
kept is the running mean of the weights. Needs Debian's python3-torch and python3-numpy.

usage: train.py FEATURES OUT.bin [STEPS [LEARNING-RATE [START]]]      START: weights to go on from, as they are committed
                                                                      or OUT.bin.pt of a run; narrower ones are widened
"""
import glob
import json
import math
import multiprocessing
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
DROP = 0.15
VALIDATION = 60  # the pieces with the first numbers are never trained on
TEMPI, SLOWEST, FASTEST = 72, 40.0, 270.0  # tempi told apart, beats a minute
TEMPO_WEIGHT = 0.02
DECAY = 0.995  # of the running mean
SHOWN = 200  # steps from one report to the next

folder, out = sys.argv[1], sys.argv[2]
STEPS = int(sys.argv[3]) if len(sys.argv) > 3 else 3000
RATE = float(sys.argv[4]) if len(sys.argv) > 4 else 4e-3
torch.set_num_threads(1)  # convolutions this narrow gain nothing from a second one; crops are made beside them
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
        self.tempo1 = nn.Linear(CHANNELS, 48)
        self.tempo2 = nn.Linear(48, TEMPI)

    def forward(self, x, drop=0.0):
        x = (x - self.mean[None, :, None]) * self.scale[None, :, None]
        x = F.relu(self.front(x))
        for dilated, mixed in zip(self.dilated, self.mixed):
            y = F.relu(dilated(x))
            if drop > 0:
                y = F.dropout(y, drop)
            x = x + mixed(y)
        x = F.relu(x)
        return self.head(x), self.tempo2(F.relu(self.tempo1(x.mean(2))))


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


def tempo_target(beats, start, stretch):
    """The tempo of what is heard as a hill over the tempi told apart; nothing where there is no beat."""
    hill = np.zeros(TEMPI, dtype=np.float32)
    inside = [b for b in beats if start <= b * FPS < start + CROP * stretch]
    if len(inside) > 8:
        tempo = 60 * stretch / np.median(np.diff(inside))
        centre = math.log(tempo / SLOWEST) / math.log(FASTEST / SLOWEST) * (TEMPI - 1)
        hill = np.exp(-0.5 * (np.arange(TEMPI) - centre) ** 2).astype(np.float32)
        hill /= max(1e-6, hill.sum())
    return hill


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
    return x.T, np.stack([beats, bars]), tempo_target(about["beats"], start, stretch)


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


def stacked(crops):
    return [np.stack(part) for part in zip(*crops)]


def produce(queue, seed):
    """Makes batches in a process of its own, from all pieces that have arrived."""
    global rng
    rng = np.random.default_rng(seed)
    made = 0
    while True:
        if made % SHOWN == 0:
            rescan()
            training = [p for p in known if number(p) > VALIDATION]
        made += 1
        x, y, z = stacked([crop(known[training[i]], True) for i in rng.integers(0, len(training), BATCH)])
        queue.put((x.astype(np.float16), y, z, len(training)))


def loss_of(logits, target):
    beat = F.binary_cross_entropy_with_logits(logits[:, 0], target[:, 0])
    bar = F.binary_cross_entropy_with_logits(logits[:, 1], target[:, 1])
    return beat + 1.5 * bar, beat, bar


def tempo_loss(logits, target):
    return -(target * F.log_softmax(logits, 1)).sum(1).mean()


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
    """
    Takes up weights as save() writes them; mean and scale, which lie in the first layer there, come out of it again. A
    narrower network's are put into the wider one so that it says the same: what is new is heard by nothing old yet.
    """
    width, channels, kernel, blocks = np.fromfile(path, dtype="<i4", count=4)
    assert (width, kernel, blocks) == (model.mean.numel(), KERNEL, len(DILATIONS)) and channels <= CHANNELS, "another network's weights"
    values = np.fromfile(path, dtype="<f4", offset=16)
    at = 0

    def take(layer, tall, wide):
        nonlocal at
        taps = layer.weight.shape[2]
        whole = values[at : at + taps * wide * channels].reshape(taps, wide, channels)
        at += whole.size
        layer.weight[:tall, :wide] = torch.tensor(whole.transpose(2, 1, 0)[:tall].copy())
        layer.weight[:tall, wide:] = 0
        layer.bias[:tall] = torch.tensor(values[at : at + channels][:tall].copy())
        at += channels

    with torch.no_grad():
        take(model.front, channels, width)
        model.front.bias[:channels] += (model.front.weight[:channels, :, 0] * model.mean[None, :]).sum(1)
        model.front.weight[:channels] /= model.scale[None, :, None]
        for dilated, mixed in zip(model.dilated, model.mixed):
            take(dilated, channels, channels)
            take(mixed, channels, channels)
        take(model.head, 2, channels)
    assert at == values.size


rescan()
model = BeatNetwork(next(iter(known.values()))[0]["width"])
sample = np.concatenate([d[::7] for _, d in list(known.values())[:150]]) / 16384.0
model.mean.copy_(torch.tensor(sample.mean(0), dtype=torch.float32))
model.scale.copy_(torch.tensor(1 / (sample.std(0) + 0.02), dtype=torch.float32))
if len(sys.argv) > 5 and sys.argv[5].endswith(".pt"):
    model.load_state_dict(torch.load(sys.argv[5]))
elif len(sys.argv) > 5:
    start_from(model, sys.argv[5])
optimiser = torch.optim.AdamW(model.parameters(), lr=3e-3, weight_decay=1e-4)
schedule = torch.optim.lr_scheduler.OneCycleLR(optimiser, RATE, STEPS, pct_start=0.1)
print("parameters", sum(p.numel() for p in model.parameters()), "pieces", len(known), flush=True)
fork = multiprocessing.get_context("fork")
queue = fork.Queue(6)
fork.Process(target=produce, args=(queue, SEED * 7919 + 1), daemon=True).start()
checks = [torch.tensor(part) for part in stacked([crop(known[p], False) for p in known if number(p) <= VALIDATION])]
running = {name: value.clone() for name, value in model.state_dict().items()}


def check():
    """What the running mean of the weights misses on the pieces that are never trained on; saves it."""
    held = {name: value.clone() for name, value in model.state_dict().items()}
    model.load_state_dict(running)
    with torch.no_grad():
        x, y, z = checks
        said, tempo = (torch.cat(part) for part in zip(*[model(x[i : i + 10]) for i in range(0, len(x), 10)]))
        _, beat, bar = loss_of(said, y)
        missed = tempo_loss(tempo, z)
    save(model)
    model.load_state_dict(held)
    return f"check beat {beat:.4f} bar {bar:.4f} tempo {missed:.3f}"


started = time.time()
sums = np.zeros(3)
for step in range(1, STEPS + 1):
    x, y, z, pieces = queue.get()
    x, y, z = torch.tensor(x).float(), torch.tensor(y), torch.tensor(z)
    logits, tempo = model(x, DROP)
    loss, beat, bar = loss_of(logits, y)
    missed = tempo_loss(tempo, z)
    optimiser.zero_grad()
    (loss + TEMPO_WEIGHT * missed).backward()
    nn.utils.clip_grad_norm_(model.parameters(), 1.0)
    optimiser.step()
    schedule.step()
    with torch.no_grad():
        decay = min(DECAY, 1 - 1 / (step + 1))
        for name, value in model.state_dict().items():
            running[name].mul_(decay).add_(value, alpha=1 - decay)
    sums += [beat.item(), bar.item(), missed.item()]
    if step % SHOWN == 0 or step == STEPS:
        beat, bar, missed = sums / SHOWN
        print(
            f"{step} pieces {pieces} beat {beat:.4f} bar {bar:.4f} tempo {missed:.3f} | {check()} | {time.time() - started:.0f} s",
            flush=True,
        )
        sums[:] = 0
