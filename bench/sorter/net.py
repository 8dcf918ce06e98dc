"""The network of core/cut/sorter/network.ts, for learning: the same layers in the same order."""
import torch, torch.nn as nn, torch.nn.functional as F

EVIDENCE = 16
LEVELS = [12, 16, 24, 40, 64, 64]

class Block(nn.Module):
    """Depthwise 3 × 3, then pointwise and rectified; added to its input where it keeps the channels."""
    def __init__(self, into, out):
        super().__init__()
        self.dw = nn.Conv2d(into, into, 3, padding=1, groups=into)
        self.pw = nn.Conv2d(into, out, 1)
        self.added = into == out
        with torch.no_grad():
            self.dw.weight.mul_(0.3); self.dw.weight[:, 0, 1, 1] += 1.0; self.dw.bias.zero_()
            nn.init.kaiming_normal_(self.pw.weight, nonlinearity='relu'); self.pw.bias.zero_()
            if self.added: self.pw.weight.mul_(0.3)
    def forward(self, x):
        y = F.relu(self.pw(self.dw(x)))
        return x + y if self.added else y

def blocks(channels, count): return nn.Sequential(*[Block(channels, channels) for _ in range(count)])

class Net(nn.Module):
    def __init__(self):
        super().__init__()
        c = LEVELS
        self.stem = Block(EVIDENCE, c[0])
        self.e1 = nn.Conv2d(EVIDENCE + c[0], c[1], 1); self.b1 = blocks(c[1], 1)
        self.e2 = nn.Conv2d(c[1], c[2], 1); self.b2 = blocks(c[2], 2)
        self.e3 = nn.Conv2d(c[2], c[3], 1); self.b3 = blocks(c[3], 2)
        self.e4 = nn.Conv2d(c[3], c[4], 1); self.b4 = blocks(c[4], 2)
        self.e5 = nn.Conv2d(c[4], c[5], 1); self.b5 = blocks(c[5], 3)
        self.u4 = nn.Conv2d(c[5], c[4], 1); self.d4 = blocks(c[4], 1)
        self.u3 = nn.Conv2d(c[4], c[3], 1); self.d3 = blocks(c[3], 2)
        self.u2 = nn.Conv2d(c[3], c[2], 1); self.d2 = blocks(c[2], 2)
        self.u1 = nn.Conv2d(c[2], c[1], 1); self.d1 = blocks(c[1], 2)
        self.u0 = nn.Conv2d(c[1], c[0], 1); self.m0 = nn.Conv2d(c[0], c[0], 1); self.out = nn.Conv2d(c[0], 4, 1)
    def forward(self, x):
        down = lambda t: F.avg_pool2d(t, 2)
        up = lambda t: F.interpolate(t, scale_factor=2, mode='bilinear', align_corners=False)
        h0 = self.stem(x)
        h1 = self.b1(F.relu(self.e1(down(torch.cat([x, h0], 1)))))
        h2 = self.b2(F.relu(self.e2(down(h1))))
        h3 = self.b3(F.relu(self.e3(down(h2))))
        h4 = self.b4(F.relu(self.e4(down(h3))))
        h5 = self.b5(F.relu(self.e5(down(h4))))
        d4 = self.d4(h4 + up(self.u4(h5)))
        d3 = self.d3(h3 + up(self.u3(d4)))
        d2 = self.d2(h2 + up(self.u2(d3)))
        d1 = self.d1(h1 + up(self.u1(d2)))
        return self.out(F.relu(self.m0(F.relu(h0 + up(self.u0(d1))))))
