"""Learns the sorter's weights: train.py DIR[,DIR...] OUT.pt MINUTES [RATE] [INIT.pt]. See README.md."""
import base64, glob, math, os, random, re, sys, time
import numpy as np, torch, torch.nn.functional as F
sys.path.insert(0, os.path.dirname(os.path.abspath(__file__)))
from net import Net
torch.set_num_threads(int(os.environ.get('THREADS', '2')))
dirs, out, minutes = sys.argv[1].split(','), sys.argv[2], float(sys.argv[3])
rate = float(sys.argv[4]) if len(sys.argv) > 4 else 2.5e-3
init = sys.argv[5] if len(sys.argv) > 5 else None
PERSON, OUTSIDE, KNOWN = 9, 11, 14
def load(f):
    b = np.fromfile(f, np.int8); w, h, c, _ = np.frombuffer(b[:16].tobytes(), np.int32); n = w * h
    return b[16:16 + c * n].reshape(c, h, w), b[16 + c * n:].view(np.uint8).reshape(3, h, w)
files = sorted(sum([glob.glob(d + '/*.bin') for d in dirs], []))
val = [f for i, f in enumerate(files) if i % 40 == 7]; tr = [f for i, f in enumerate(files) if i % 40 != 7]
cache = {}
def batch(f, aug):
    if f not in cache: cache[f] = load(f)
    e, t = cache[f]
    x = torch.from_numpy(e.astype(np.float32) / 63); t = torch.from_numpy(t.astype(np.float32) / 255)
    h, w = x.shape[1:]
    if aug:
        if random.random() < 0.5: x = x.flip(2); t = t.flip(2)
        if random.random() < 0.08: x[PERSON] = 0; x[KNOWN] = 0
        # What the frame cuts off is varied.
        if random.random() < 0.5 and h > 200 and w > 200:
            cut = lambda n: random.randint(0, n // 3) if random.random() < 0.5 else 0
            y0, y1, x0, x1 = cut(h), h - cut(h), cut(w), w - cut(w)
            if y1 - y0 > 128 and x1 - x0 > 128: x = x[:, y0:y1, x0:x1]; t = t[:, y0:y1, x0:x1]
    h, w = x.shape[1:]; H, W = -h % 32, -w % 32
    v = F.pad(torch.ones(1, h, w), (0, W, 0, H))
    return F.pad(x[None], (0, W, 0, H), mode='replicate'), F.pad(t[None], (0, W, 0, H), mode='replicate'), v
def written(file, net):
    """The weights of a module that export.py wrote."""
    values = np.frombuffer(base64.b64decode(''.join(re.findall(r"^  '(.*)',$", open(file).read(), re.M))), '<f2').astype(np.float32)
    parts = torch.split(torch.from_numpy(values), [p.numel() for p in net.state_dict().values()])
    return {k: v.view(p.shape).clone() for (k, p), v in zip(net.state_dict().items(), parts)}
def target(t):
    lo, me, hi = t[:, 0], t[:, 1], t[:, 2]
    y = torch.ones_like(lo, dtype=torch.long); y[lo > 0.96] = 2; y[hi < 0.04] = 0
    return y, me
def losses(o, x, t, v):
    y, me = target(t); v = v * (x[:, OUTSIDE] < 0.5)
    ce = F.cross_entropy(o[:, :3], y, reduction='none'); p = F.softmax(o[:, :3], 1)
    # A body that is opened and a screen that stays cost most.
    wrong = (y == 2) * p[:, 0] + (y == 0) * p[:, 2]
    a = (torch.sigmoid(o[:, 3]) - me).abs()
    n = v.sum().clamp(min=1)
    return ((ce + 3 * wrong) * v).sum() / n, (a * v * (1 + 4 * (y == 1))).sum() / n
net = Net()
if init: net.load_state_dict(torch.load(init) if init.endswith('.pt') else written(init, net))
print(len(tr), len(val), 'weights', sum(p.numel() for p in net.parameters()), flush=True)
opt = torch.optim.AdamW(net.parameters(), lr=rate, weight_decay=1e-4)
hard = {f: 1.0 for f in tr}
def evaluate(m):
    r = []
    with torch.no_grad():
        for f in val:
            x, t, v = batch(f, False); o = m(x); l1, l2 = losses(o, x, t, v); y, me = target(t); p = F.softmax(o[:, :3], 1); vv = (v * (x[:, OUTSIDE] < 0.5)) > 0
            s, c = (y == 2) & vv, (y == 0) & vv
            part = lambda q, m: q[m].float().mean().item() if m.any() else np.nan
            r.append([l1.item(), l2.item(), part(p[:, 2] < 0.5, s), part(p[:, 0] > 0.5, s), part(p[:, 0] < 0.5, c), part(p[:, 2] > 0.5, c)])
    r = np.array(r); return np.nanmean(r, 0), np.nanmean(np.sort(r[:, 0])[-max(1, len(r) // 10):])
t0 = last = time.time(); step = n = 0; acc = 0.0; ema = None
while time.time() - t0 < minutes * 60:
    done = (time.time() - t0) / (minutes * 60)
    for g in opt.param_groups: g['lr'] = rate * (0.49 * (1 + math.cos(math.pi * done)) + 0.02) * min(1, (step + 1) / 100)
    opt.zero_grad()
    # Frames that are still wrong come more often; the worst tenth decides.
    for f in random.choices(tr, weights=[h ** 0.6 for h in hard.values()], k=4):
        x, t, v = batch(f, True); o = net(x); l1, l2 = losses(o, x, t, v); l = l1 + l2; (l / 4).backward()
        hard[f] = 0.5 * hard[f] + 0.5 * min(3.0, l.item()); acc += l.item(); n += 1
    torch.nn.utils.clip_grad_norm_(net.parameters(), 1.0); opt.step(); step += 1
    with torch.no_grad():
        d = min(0.995, (step + 1) / (step + 10))
        if ema is None: ema = {k: p.clone() for k, p in net.state_dict().items()}
        else:
            for k, p in net.state_dict().items(): ema[k].mul_(d).add_(p, alpha=1 - d)
    if time.time() - last > 180:
        last = time.time(); m = Net(); m.load_state_dict(ema); r, w = evaluate(m)
        print(f'{(last - t0) / 60:.0f} min, step {step}: loss {acc / n:.3f}; kept aside {r[0]:.3f} (worst tenth {w:.3f}), coverage {r[1]:.3f}, solid not solid {100 * r[2]:.2f} %, clear {100 * r[3]:.2f} %, clear not clear {100 * r[4]:.2f} %, solid {100 * r[5]:.2f} %', flush=True)
        acc = 0.0; n = 0; torch.save(ema, out)
torch.save(ema, out)
