# CPU and memory of reading one large file: by the command line from the file and from standard input, and by pandas' reader where it is
# there. Run by bench/traces.mjs with: node, the command line, the file. Answers JSON; CPU is user and system of the child alone.
import json
import os
import subprocess
import sys

node, needle, path = sys.argv[1:4]
PANDAS = "import sys, pandas; print(len(pandas.read_csv(sys.argv[1])))"


def cost(command, stdin=None):
    source = open(stdin, "rb") if stdin else subprocess.DEVNULL
    child = subprocess.Popen(command, stdin=source, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL)
    out = child.stdout.read()
    _, status, used = os.wait4(child.pid, 0)
    if status != 0:
        return None
    return {"cpu_s": round(used.ru_utime + used.ru_stime, 2), "peak_MB": round(used.ru_maxrss / 1024), "out": out}


def least(command, stdin=None, runs=3):
    all = [cost(command, stdin) for _ in range(runs)]
    return None if None in all else min(all, key=lambda c: c["cpu_s"])


trace = [node, needle, "trace", "--family", "well-switch"]
file = least(trace + [path])
stdin = least(trace + ["-"], path)
pandas = least(["/usr/bin/python3", "-c", PANDAS, path])
for c in (file, stdin, pandas):
    if c:
        c.pop("out")
print(json.dumps({"file": file, "stdin": stdin, "pandas": pandas}))
