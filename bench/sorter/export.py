"""Writes learnt weights as the core's module: export.py WEIGHTS.pt weights.ts"""
import base64, sys
import numpy as np, torch

values = np.concatenate([v.numpy().ravel() for v in torch.load(sys.argv[1]).values()]).astype('<f2')
text = base64.b64encode(values.tobytes()).decode()
lines = [text[n:n + 120] for n in range(0, len(text), 120)]
with open(sys.argv[2], 'w') as file:
    file.write("/** The sorting network's weights: halves (IEEE 754 binary16, low byte first) in base64, in the order in which they are used. Learnt from generated frames; see bench/sorter. */\n")
    file.write('export const sorterWeights = [\n' + ''.join(f"  '{line}',\n" for line in lines) + "].join('');\n")
print(len(values), 'weights')
