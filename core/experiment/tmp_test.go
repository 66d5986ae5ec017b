package experiment_test

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"exactflask/core/experiment"
	"exactflask/core/journal"
	"exactflask/core/practical"
)

func TestBaseline(t *testing.T) {
	files, _ := filepath.Glob("../../formats/testdata/version1/*.json")
	for _, f := range files {
		text, _ := os.ReadFile(f)
		var doc struct {
			Practical json.RawMessage
			Journal   []journal.Entry
		}
		if err := json.Unmarshal(text, &doc); err != nil {
			t.Error(f, err)
			continue
		}
		p, err := practical.Decode(doc.Practical)
		if err != nil {
			t.Error(f, err)
			continue
		}
		r, fault := p.Check()
		if fault != nil {
			t.Error(f, fault)
			continue
		}
		for _, e := range doc.Journal {
			if f := e.Check(); f != nil {
				t.Error(f)
			}
		}
		ev := experiment.Evaluate(r, doc.Journal, experiment.All)
		base, _ := os.ReadFile("/tmp/baseline/" + filepath.Base(f))
		var old map[string]any
		json.Unmarshal(base, &old)
		o := old
		if e, ok := old["evaluation"]; ok {
			o = e.(map[string]any)
		}
		get := func(m map[string]any, path string) any {
			var v any = m
			for _, k := range strings.Split(path, ".") {
				mm, ok := v.(map[string]any)
				if !ok {
					return nil
				}
				v = mm[k]
			}
			return v
		}
		out, _ := json.Marshal(ev)
		var now map[string]any
		json.Unmarshal(out, &now)
		fmt.Println("==", filepath.Base(f), r.Kind)
		for _, path := range []string{"result.answer.value", "result.answer.figures", "result.second.answer.value", "agreement.mean", "agreement.status", "stage", "result.budget.standard", "next.expectAt", "next.slowAt", "statistics.sd", "result.label.percent"} {
			a, b := fmt.Sprint(get(o, path)), fmt.Sprint(get(now, path))
			if a != b {
				fmt.Println("   ", path, a, "->", b)
			}
		}
		codes := func(m map[string]any, key, in string) string {
			s := ""
			v := get(m, key)
			l, _ := v.([]any)
			for _, x := range l {
				s += fmt.Sprint(x.(map[string]any)[in]) + " "
			}
			return s
		}
		for _, k := range [][2]string{{"findings", "code"}, {"trials", "reason"}, {"work", "step"}, {"result.causes", "code"}} {
			if a, b := codes(o, k[0], k[1]), codes(now, k[0], k[1]); a != b {
				fmt.Println("   ", k[0], "|", a, "->", b)
			}
		}
		fmt.Println("    ", get(o, "next.code"), ev.Next.Say)
		if ev.Expected != nil {
			fmt.Println("     expected", ev.Expected.Low, ev.Expected.High)
		}
	}
}
