package record_test

import (
	"bytes"
	"encoding/json"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/experiment"
	"exactflask/core/journal"
	"exactflask/formats"
	"exactflask/record"
	"exactflask/wording"
)

// The page's module and the program give the same answers, byte for byte, for
// every example, with entries added and with results withheld.
func TestWebAssemblyAgreesWithTheProgram(t *testing.T) {
	files, err := filepath.Glob("../docs/examples/*.json")
	require.NoError(t, err)
	var requests []json.RawMessage
	var want []string
	for _, file := range files {
		f, err := os.Open(file)
		require.NoError(t, err)
		doc, err := formats.Read(f)
		require.NoError(t, err, file)
		require.NoError(t, f.Close())
		half := len(doc.Journal) / 2
		for _, in := range []record.Request{
			{Practical: doc.Practical, Entries: doc.Journal},
			{Practical: doc.Practical, Entries: doc.Journal[:half], Added: doc.Journal[half:], Style: experiment.Style{Words: experiment.WordsTiter, Units: experiment.UnitsCM3}},
			{Practical: doc.Practical, Entries: doc.Journal, Withheld: true},
			{Practical: doc.Practical, Added: []journal.Entry{{ID: "too-early-1", Device: "d", Clock: 1, Kind: journal.KindReading, Reading: &journal.Scale{Trial: "not-there-1", Mark: journal.End, Text: "1.00"}}}},
		} {
			text, err := json.Marshal(in)
			require.NoError(t, err)
			requests, want = append(requests, text), append(want, string(record.JudgeJSON(text)))
		}
		// And the page's answer is the server's evaluation.
		ev, fault := experiment.Evaluate(doc.Practical, doc.Journal)
		require.Nil(t, fault)
		server, err := json.Marshal(wording.Speak(doc.Practical, ev, experiment.Style{}))
		require.NoError(t, err)
		answer, err := json.Marshal(record.Judge(record.Request{Practical: doc.Practical, Entries: doc.Journal}).Sheet)
		require.NoError(t, err)
		assert.Equal(t, string(server), string(answer))
	}
	all, err := json.Marshal(requests)
	require.NoError(t, err)
	const script = `
		const fs = require("fs");
		require("../ui/public/wasm_exec.js");
		const go = new Go();
		WebAssembly.instantiate(fs.readFileSync("../ui/public/record.wasm"), go.importObject).then(({ instance }) => {
			go.run(instance);
			const requests = JSON.parse(fs.readFileSync(0, "utf8"));
			process.stdout.write(JSON.stringify(requests.map((r) => exactflaskJudge(JSON.stringify(r)))), () => process.exit(0));
		});`
	cmd := exec.Command("node", "-e", script)
	cmd.Stdin, cmd.Stderr = bytes.NewReader(all), os.Stderr
	out, err := cmd.Output()
	require.NoError(t, err, "run: make build")
	var got []string
	require.NoError(t, json.Unmarshal(out, &got))
	require.Len(t, got, len(want))
	for i := range want {
		assert.True(t, want[i] == got[i], "request %d: the page's module answers otherwise; run: make build", i) // the texts are too long to print
	}
	assert.Contains(t, got[3], "open the trial first")
}
