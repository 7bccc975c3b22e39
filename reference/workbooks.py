# Workbooks by openpyxl (Debian's python3-openpyxl): reads those that are named, and writes one of its own.
# Run by reference/workbooks.test.ts with JSON {read: [{path, sheet, column}], write: path}; answers JSON.
import datetime
import json
import math
import sys
import warnings

import openpyxl

warnings.simplefilter("ignore")
ask = json.load(sys.stdin)
found = []
for one in ask["read"]:
    sheet = openpyxl.load_workbook(one["path"], data_only=True)[one["sheet"]]
    values = [row[one["column"]] for row in sheet.iter_rows(values_only=True)]
    numbers = [v for v in values if isinstance(v, (int, float))]
    found.append({"n": len(numbers), "mean": math.fsum(numbers) / len(numbers), "last": numbers[-1]})

book = openpyxl.Workbook()
notes = book.active
notes.title = "Notes"
notes.append(["Logger 4", "north pump house"])
log = book.create_sheet("Readings")
log.append(["Taken at", "Delivery (kPa)", "Remark"])
start = datetime.datetime(2032, 2, 28, 23, 50)
written = []
for i in range(120):
    value = round(412.5 + 37.25 * math.sin(i / 6), 2)
    written.append(value)
    log.append([start + datetime.timedelta(seconds=15 * i), value, "ok" if i % 7 else None])
book.save(ask["write"])
print(json.dumps({"read": found, "written": written, "step": 15}))
