package formats

import (
	"exactflask/core/experiment"
	"exactflask/core/practical"
	"exactflask/view"
	"fmt"
	"os"
	"path/filepath"
	"testing"
)

func TestQuick(t *testing.T) {
	fs, _ := filepath.Glob("testdata/version1/*.json")
	for _, f := range fs {
		r, _ := os.Open(f)
		d, err := Read(r)
		if err != nil {
			t.Error(f, err)
			continue
		}
		ready, _ := d.Practical.Check()
		ev := experiment.Evaluate(ready, d.Journal, experiment.All)
		s := view.Of(ready, ev, practical.Style{})
		view.WriteText(os.Stdout, ready, s)
		fmt.Println("--------")
	}
	b, _ := Schema()
	os.WriteFile("/tmp/schema.json", b, 0644)
}
