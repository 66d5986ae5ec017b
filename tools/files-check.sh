#!/bin/sh
# Has the files of a report read by programs of others: poppler, LibreOffice, unzip and
# Python's csv and json, as far as they are here. Prints what they found; nothing of it is
# needed to build or test. Run it as: sh tools/files-check.sh > docs/files-check.txt
set -eu
dir=$(mktemp -d)
port=${PORT:-8099}
bin/exactflask serve --demo --quiet --data "$dir/demo.db" --port "$port" >"$dir/log" 2>&1 &
server=$!
trap 'kill $server; rm -rf "$dir"' EXIT
until curl -sf "http://localhost:$port/readyz" >/dev/null; do sleep 0.2; done
ask() { curl -sf -b "$dir/cookies" "http://localhost:$port/api/$1"; }
curl -sf -c "$dir/cookies" -H 'Content-Type: application/json' -d '{"username":"mira","password":"tide-pool"}' "http://localhost:$port/api/session" >/dev/null
cd "$dir"
ask shelf | python3 -c "
import json, sys
for shelf in json.load(sys.stdin)['shelves']:
    for p in shelf['practicals']:
        for n in p['notebooks']:
            if n.get('id'): print(n['id'], p['practical'])" >notebooks
while read -r id practical; do
	echo "== $practical"
	for ending in pdf xlsx csv zip; do ask "notebooks/$id/report.$ending" >"report.$ending"; done
	pdfinfo report.pdf | grep -E '^(Title|Pages|Page size)'
	echo "fonts embedded: $(pdffonts report.pdf | tail -n +3 | awk '{print $(NF-4)}' | sort | uniq -c | tr '\n' ' ')"
	answer=$(ask "notebooks/$id/report" | python3 -c "import json,sys; a=json.load(sys.stdin).get('answer'); print(a['statement'] if a else '')")
	[ -z "$answer" ] || pdftotext report.pdf - | tr '\n' ' ' | grep -q "$(echo "$answer" | cut -c1-25)" && echo "the answer is selectable text: $answer"
	unzip -tq report.zip
	python3 - <<'PY'
import csv, json, zipfile, hashlib
rows = list(csv.DictReader(open('report.csv', newline='')))
print(len(rows), 'lines of CSV,', sum(1 for r in rows if r['volume / mL'] or r['mass / g']), 'with a figure')
z = zipfile.ZipFile('report.zip')
crate = json.loads(z.read('ro-crate-metadata.json'))
files = [e for e in crate['@graph'] if e['@type'] == 'File']
assert all(hashlib.sha256(z.read(e['@id'])).hexdigest() == e['sha256'] for e in files)
print(len(files), 'files of the crate have the hash that it says')
PY
	if command -v soffice >/dev/null; then
		soffice --headless --convert-to 'csv:Text - txt - csv (StarCalc):44,34,76,1,,0,false,true,false,false,false,-1' report.xlsx >/dev/null 2>&1
		python3 - <<'PY'
import csv, glob, zipfile, re
sheet = glob.glob('report-Working.csv')
if sheet:
    rows = list(csv.reader(open(sheet[0], newline='')))[1:]
    x = zipfile.ZipFile('report.xlsx')
    formulas = re.findall(r'<f>', x.read('xl/worksheets/sheet2.xml').decode())
    print('LibreOffice computed', len(rows), 'figures from', len(formulas), 'formulas; the last:', rows[-1][0], rows[-1][1], rows[-1][2])
    assert not any('Err' in c or '#' in c for r in rows for c in r[1:2])
PY
		rm -f report-*.csv
	fi
done <notebooks
