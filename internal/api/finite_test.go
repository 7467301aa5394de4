package api

import (
	"encoding/json"
	"math"
	"reflect"
	"slices"
	"testing"
)

type inner struct {
	Known  float64
	Maybe  *float64
	hidden float64
}

type answerOf struct {
	Name   string
	Plain  float64
	Maybe  *float64
	List   []inner
	Pair   [2]float64
	By     map[string]*inner
	Any    any
	Bytes  []byte
	Nested *inner
}

// No answer of numbers that JSON cannot write hides the others: what may be unknown
// becomes so, anything else 0, and each place is named.
func TestNumbersThatCannotBeWrittenAreNamedAndLeftOut(t *testing.T) {
	nan, inf, one := math.NaN(), math.Inf(-1), 1.0
	v := answerOf{Name: "kept", Plain: nan, Maybe: &inf, List: []inner{{Known: 2, Maybe: &one}, {Known: inf, Maybe: &nan}}, Pair: [2]float64{3, nan},
		By: map[string]*inner{"a": {Known: nan, Maybe: &one}, "b": nil}, Any: inner{Known: nan, hidden: nan}, Bytes: []byte{1, 2}, Nested: &inner{Known: 4}}
	clean, left := finite(v)
	slices.Sort(left)
	want := []string{"Any.Known", "By.a.Known", "List[1].Known", "List[1].Maybe", "Maybe", "Pair[1]", "Plain"}
	if !slices.Equal(left, want) {
		t.Errorf("left out %q, want %q", left, want)
	}
	if _, err := json.Marshal(clean); err != nil {
		t.Fatalf("it still cannot be written: %v", err)
	}
	got := clean.(answerOf)
	if got.Name != "kept" || got.Plain != 0 || got.Maybe != nil || got.List[0].Known != 2 || *got.List[0].Maybe != 1 || got.List[1].Maybe != nil || got.Pair != [2]float64{3, 0} ||
		*got.By["a"].Maybe != 1 || got.By["b"] != nil || !slices.Equal(got.Bytes, []byte{1, 2}) || got.Nested.Known != 4 {
		t.Errorf("%+v", got)
	}
	// What was asked about stays as it was.
	if !math.IsNaN(v.Plain) || v.Maybe != &inf || !math.IsNaN(*v.List[1].Maybe) || !math.IsNaN(v.By["a"].Known) {
		t.Error("the answer itself was changed")
	}
}

func TestAnAnswerThatCanBeWrittenIsTheSame(t *testing.T) {
	one := 1.0
	for _, v := range []any{
		nil, 5.0, "words", []float64{1, 2}, map[string]float64{"a": 1}, answerOf{Name: "x", Maybe: &one, List: []inner{{Known: 1}}, By: map[string]*inner{"a": {Known: 1}}, Any: 3.5},
		[]inner(nil), map[string]inner(nil), (*inner)(nil), answerOf{},
	} {
		clean, left := finite(v)
		if len(left) != 0 || !reflect.DeepEqual(clean, v) {
			t.Errorf("%#v became %#v, left out %q", v, clean, left)
		}
	}
}
