package series_test

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/chemistry/equilibrium"
	"exactflask/core/model/series"
)

// The model finds what SciPy's least squares finds of the same points with the same model
// written another way (tools/reference/curvefit.py; the versions are in the file): values to
// a hundredth of their uncertainty, uncertainties to 2 %.
func TestAgainstSciPy(t *testing.T) {
	text, err := os.ReadFile("testdata/reference.json")
	require.NoError(t, err)
	var file struct {
		Runs []struct {
			Name                                string
			Volumes, Readings, Values, Standard []float64
			Noise                               float64
		}
	}
	require.NoError(t, json.Unmarshal(text, &file))
	require.Len(t, file.Runs, 3)
	base := equilibrium.Substance{Strong: 1}
	for _, r := range file.Runs {
		run := series.Series{Kind: series.PH, Flask: 25, Titrant: 0.1, Burette: 1e-9, PKw: 13.995}
		switch r.Name {
		case "weak":
			run.AcidBase = &series.AcidBase{Sample: equilibrium.Substance{PKa: []float64{4.5}}, Titrant: base, Ratio: 1}
		case "two":
			run.AcidBase, run.EndNumber = &series.AcidBase{Sample: equilibrium.Substance{PKa: []float64{3, 7}}, Titrant: base, Ratio: 0.5}, 2
		default:
			run.Kind, run.Redox = series.MV, &series.Redox{Sample: equilibrium.Couple{Electrons: 1}, Titrant: equilibrium.Couple{Electrons: 1}}
		}
		for i, v := range r.Volumes {
			run.Points = append(run.Points, series.Measured{Volume: v, Reading: r.Readings[i]})
		}
		a := series.Analyse(run)
		require.NotNil(t, a.Fit, r.Name)
		require.Nil(t, a.Ends[0].Why, r.Name)
		values, spreads := []float64{a.Ends[0].Volume}, []float64{a.Ends[0].Standard}
		if run.Kind == series.PH {
			values, spreads = append(values, a.Fit.Offset), append(spreads, a.Fit.OffsetU)
		}
		for _, c := range a.Fit.Constants {
			values, spreads = append(values, c.Value), append(spreads, c.Standard)
		}
		require.Len(t, values, len(r.Values), r.Name)
		for i, want := range r.Values {
			assert.InDelta(t, want, values[i], 0.01*r.Standard[i], "%s, value %d", r.Name, i)
			assert.InEpsilon(t, r.Standard[i], spreads[i], 0.02, "%s, its uncertainty %d", r.Name, i)
		}
		assert.InEpsilon(t, r.Noise, a.Fit.Noise, 0.001, r.Name)
	}
}
