package view_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"exactflask/core/record/practical"
	"exactflask/core/record/practical/practicaltest"
	"exactflask/view"
	"exactflask/wording"
)

// What stands in the flask is said, and not what was given out.
func TestInTheFlask(t *testing.T) {
	said := map[string]string{}
	for _, e := range practicaltest.Examples(t) {
		said[e.Name] = view.SettingOf(wording.For(practical.Style{}, e.Ready.Showing.Style), e.Ready).Analyte
	}
	for name, want := range map[string]string{
		"shell-chalk.json":       "left-over hydrochloric acid (HCl)",
		"pond-bleach.json":       "iodine (I₂), set free by filter bleach",
		"carbonate-hydrate.json": "left-over sulfuric acid (H₂SO₄)",
		"algae-vinegar.json":     "household vinegar (CH₃COOH), unknown, roughly 0.0833\u202fmol/L",
		"naoh-by-mass.json":      "potassium hydrogenphthalate (KHC₈H₄O₄), weighed",
	} {
		assert.Equal(t, want, said[name], name)
	}
}
