# What Python's own csv module reads of files whose encoding and delimiter it is told: rows of numbers, their count, mean and last.
# Run by reference/files.test.ts with a JSON list of {path, encoding, delimiter, column, decimal, group}; answers JSON.
import csv
import json
import math
import sys


def number(text, decimal, group):
    text = text.strip().replace("\u2212", "-")
    if group:
        text = text.replace("\u202f", " ").replace(group, "")
    if decimal == ",":
        text = text.replace(",", ".")
    try:
        x = float(text)
    except ValueError:
        return None
    return x if math.isfinite(x) else None


def read(ask):
    with open(ask["path"], encoding=ask["encoding"], newline="") as file:
        rows = list(csv.reader(file, delimiter=ask["delimiter"], skipinitialspace=ask["delimiter"] == " "))
    found = []
    for row in rows[ask["header"]:]:
        x = number(row[ask["column"]], ask["decimal"], ask.get("group")) if len(row) > ask["column"] else None
        if x is not None:
            found.append(x)
    return {"n": len(found), "mean": math.fsum(found) / len(found), "last": found[-1]}


print(json.dumps([read(ask) for ask in json.load(sys.stdin)]))
