#!/usr/bin/python3
"""Reads Google Benchmark's JSON and prints each pair as a ratio of the best runs, against its bound."""
import json
import sys

best = {}
for run in json.load(open(sys.argv[1]))["benchmarks"]:
    if run.get("run_type") == "iteration":
        name = run["name"].split("/iterations:")[0]
        best[name] = min(best.get(name, float("inf")), run["real_time"])
print("| what | ratio | at most | ours, ms | peer, ms |\n|---|---|---|---|---|")
missed = 0
for name, ours in best.items():
    what, most, side = name.rsplit("/", 2)
    if side != "ours":
        continue
    peer = best[f"{what}/{most}/peer"]
    bound = float(most.split(":")[1])
    missed += ours / peer > bound
    print(f"| {what} | {ours / peer:.2f} | {bound:g} | {ours:.2f} | {peer:.2f} |")
print(f"\n{missed} above their bound" if missed else "\nall within their bounds")
