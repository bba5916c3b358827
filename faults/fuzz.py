"""Requests by a general tool (schemathesis), made from the interface's own description: no fault, no answer that is not described."""

from __future__ import annotations

import json
import re
import subprocess
import tempfile
from pathlib import Path

from faults.served import Finding, Served
from tijera.ownership import secret_of
from tijera.web.entry import Entry

TOOL = Path("var/faults/tool/bin/schemathesis")
_CHECKS = "not_a_server_error,status_code_conformance,content_type_conformance,response_schema_conformance"


def run(examples: int = 60) -> Finding:
    """So many requests for each operation."""
    with Served() as served, tempfile.TemporaryDirectory() as folder:
        report = Path(folder) / "report.ndjson"
        token = Entry(secret_of(served.folder)).command
        command = [
            str(TOOL), "run", f"{served.address}/api/v1/openapi.json", "--url", served.address,
            "-H", f"Authorization: Bearer {token}", "--checks", _CHECKS, "--max-examples", str(examples),
            "--phases", "examples,coverage,fuzzing", "--mode", "all", "--seed", "18", "--workers", "2", "--request-timeout", "60",
            "--exclude-path-regex", "events|/take-anew|control", "--report", "ndjson", "--report-ndjson-path", str(report), "--no-color",
        ]  # fmt: skip
        ended = subprocess.run(command, capture_output=True, text=True, check=False)
        said = ended.stdout
        requests, bad = _counted(report)
    Path("var/faults").mkdir(parents=True, exist_ok=True)
    Path("var/faults/fuzz.txt").write_text(said + ended.stderr, encoding="utf-8")
    blocks = re.split(r"\n(?=- ST\d+ )", said.partition("= WARNINGS =")[0])[1:]
    # A request line of more than 64 kB is answered by the HTTP server itself, before there is anything to describe.
    count = sum("Invalid HTTP request received." not in each for each in blocks)
    details = f"{requests} requests, {bad} answers of 5xx; {count} kinds of failure; the tool's own words are in var/faults/fuzz.txt"
    met = requests >= 10_000 and bad == 0 and count == 0
    return Finding(
        "Requests made by schemathesis: faults and answers that are not described",
        str(max(bad, count)),
        "0 of ≥ 10,000",
        met,
        details,
    )


def _counted(report: Path) -> tuple[int, int]:
    """How many requests there were, and how many were answered with a fault."""
    requests = bad = 0
    for line in report.read_text(encoding="utf-8").splitlines() if report.is_file() else ():
        for status in _statuses(json.loads(line)):
            requests += 1
            bad += status >= 500
    return requests, bad


def _statuses(value: object) -> list[int]:
    found: list[int] = []
    if isinstance(value, dict):
        if isinstance(value.get("status_code"), int):
            found.append(value["status_code"])
        for each in value.values():
            found += _statuses(each)
    elif isinstance(value, list):
        for each in value:
            found += _statuses(each)
    return found
