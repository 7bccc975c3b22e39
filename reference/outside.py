# What other programs make of what is handed over: run by apps/server/test/outside.test.ts with the directory of the files; answers JSON.
import csv
import hashlib
import io
import json
import subprocess
import sys
from pathlib import Path

import icalendar
import jsonschema

here = Path(sys.argv[1])


def run(*command):
    done = subprocess.run(command, capture_output=True, text=True)
    return done.returncode, done.stdout


def pdf(name):
    path = str(here / name)
    info = dict(line.split(":", 1) for line in run("pdfinfo", path)[1].splitlines() if ":" in line)
    fonts = [line.split() for line in run("pdffonts", path)[1].splitlines()[2:]]
    structure = run("pdfinfo", "-struct", path)[1]
    return {
        "sound": run("qpdf", "--check", path)[0] == 0,
        "title": info["Title"].strip(),
        "tagged": info["Tagged"].strip() == "yes",
        "pages": int(info["Pages"]),
        "embedded": len(fonts) > 0 and all(font[-5] == "yes" for font in fonts),
        "tags": sorted({word for word in ("Document", "H1", "H2", "Table", "TR", "TH", "TD", "Figure") if word in structure}),
        "text": run("pdftotext", "-layout", path, "-")[1],
    }


def code(name):
    picture = str(here / "tag")
    run("pdftoppm", "-r", "200", "-png", "-singlefile", str(here / name), picture)
    return run("zbarimg", "--quiet", "--raw", f"{picture}.png")[1].strip()


def calendar(name):
    cal = icalendar.Calendar.from_ical((here / name).read_bytes())
    return sorted(
        [str(e["UID"]), e.decoded("DTSTART").isoformat(), str(e["SUMMARY"])] for e in cal.walk("VEVENT")
    )


def chains(dossier):
    heads = {}
    for job in dossier["jobs"]:
        head = "0" * 64
        for event in sorted((e for e in dossier["events"] if e["job_id"] == job["id"]), key=lambda e: e["seq"]):
            head = hashlib.sha256(f"{head}\n{event['text']}".encode()).hexdigest()
        heads[job["id"]] = head
    return heads


def valid(dossier, schema):
    jsonschema.Draft202012Validator.check_schema(schema)
    return [error.message[:200] for error in jsonschema.Draft202012Validator(schema).iter_errors(dossier)]


dossier = json.loads((here / "dossier.json").read_text())
schema = json.loads(Path(sys.argv[2]).read_text())
rows = list(csv.DictReader(io.StringIO((here / "readings.csv").read_text(encoding="utf-8-sig"), newline="")))
print(
    json.dumps(
        {
            "sheet": pdf("sheet.pdf"),
            "tag": pdf("tag.pdf"),
            "code": code("tag.pdf"),
        "small": code("small.pdf"),
        "odd": pdf("odd.pdf"),
            "calendar": calendar("calendar.ics"),
            "invalid": valid(dossier, schema),
            "broken": valid({**dossier, "jobs": [{**dossier["jobs"][0], "seq": "one"}]}, schema),
            "heads": chains(dossier),
            "rows": [[r["job"], int(r["entry"]), r["setting"], r["reading"], r["unit"], float(r["raw_Pa_or_s"])] for r in rows if r["raw_Pa_or_s"]],
        }
    )
)
