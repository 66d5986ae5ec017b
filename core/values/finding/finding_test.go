package finding_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/core/values/decimal"
	"exactflask/core/values/finding"
	"exactflask/core/values/quantity"
)

var level = finding.Declare("test.level", "reading", "count")

// A code is said with all of its values and no others, and is declared with one
// list of them.
func TestCodesHoldTheirValues(t *testing.T) {
	m := level.Message(finding.Exact(decimal.Must("21.30"), quantity.Millilitre), finding.Count(2))
	assert.Equal(t, "test.level", m.Code)
	assert.Panics(t, func() { level.Message(finding.Count(2)) }, "a value is missing")
	assert.Panics(t, func() { finding.Declare("test.level", "other") }, "another list of values")
	assert.NotPanics(t, func() { finding.Declare("test.level", "reading", "count") })
	assert.Equal(t, []string{"reading", "count"}, finding.Declared()["test.level"])
	family := finding.Family("test.family.", []string{"a", "b"}, "n")
	assert.Equal(t, "test.family.b", family["b"].Name())
}

// Numbers stay numbers, and exact ones keep their digits, until they are said.
func TestValuesAreTyped(t *testing.T) {
	text, err := json.Marshal(level.Message(finding.Exact(decimal.Must("21.30"), quantity.Millilitre), finding.Count(2)))
	require.NoError(t, err)
	assert.JSONEq(t, `{"code":"test.level","values":{"reading":{"exact":"21.30","unit":"mL"},"count":{"exact":"2"}}}`,
		string(text))
}

// A fault knows its place, also when it passes through other errors.
func TestFaults(t *testing.T) {
	fault := level.Fault("volume", finding.Count(1), finding.Count(2))
	assert.Equal(t, "route[0].volume", fault.In("route[0]").Path)
	assert.Equal(t, "mass", fault.At("mass").Path)
	assert.Equal(t, "volume", fault.Path, "the fault itself is left alone")
	wrapped := fmt.Errorf("reading a file: %w", fault)
	assert.Equal(t, "test.level", finding.FaultOf("practical", wrapped).Message.Code)
	var number struct {
		Volume int `json:"volume"`
	}
	kind := finding.FaultOf("input", json.Unmarshal([]byte(`{"volume":"many"}`), &number))
	assert.Equal(t, "input.volume", kind.Path)
	assert.Equal(t, "fault.type", kind.Message.Code)
	unknown := finding.FaultOf("practical", errors.New("open /home/someone/secret: no such file"))
	assert.Equal(t, "practical", unknown.Path)
	assert.NotContains(t, unknown.Error(), "/home", "what nobody wrote a sentence for is not told")
}

func ExampleCode_Fault() {
	fmt.Println(level.Fault("route[0].volume", finding.Count(1), finding.Count(2)).Path)
	// Output: route[0].volume
}
