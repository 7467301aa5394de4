// Package core_test holds the core against worked cases that an independent
// implementation computed (testdata/vectors).
package core_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"ojime/internal/core/audit"
	"ojime/internal/core/claims"
	"ojime/internal/core/cost"
	"ojime/internal/core/detail"
	"ojime/internal/core/evidence"
	"ojime/internal/core/exposure"
	"ojime/internal/core/mechanics"
	"ojime/internal/core/metrology"
	"ojime/internal/core/optics"
	"ojime/internal/core/photo"
	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
	"ojime/internal/core/resin"
	"ojime/internal/core/timing"
	"ojime/internal/core/verdict"
	"ojime/internal/core/wear"
	"ojime/internal/wire"
)

type vectorFile struct {
	Endpoint string
	Cases    []vectorCase
}

type vectorCase struct {
	Name       string
	Input      json.RawMessage
	Expect     map[string]any
	Warnings   []string
	ErrorField string `json:"error_field"`
}

func run[In, Out any](f func(In) (Out, error)) func([]byte) (any, error) {
	return func(body []byte) (any, error) {
		var in In
		if err := wire.Decode(body, &in); err != nil {
			return nil, err
		}
		return f(in)
	}
}

var calculators = map[string]func([]byte) (any, error){
	"optics/pitch": run(optics.Pitch), "optics/sight": run(optics.Sight), "optics/steps": run(optics.Steps),
	"optics/scale": run(optics.Scale), "optics/tip": run(optics.Tip),
	"exposure/working-curve": run(exposure.WorkingCurve), "exposure/series": run(exposure.Series), "exposure/transfer": run(exposure.Transfer),
	"timing/masked": run(timing.Masked), "timing/laser": run(timing.Laser), "timing/fill": run(timing.Fill),
	"timing/bias": run(timing.Bias), "timing/headline": run(timing.Headline), "timing/explain": run(timing.Explain),
	"plan/design": run(plan.Design), "plan/effects": run(plan.Effects),
	"resin/budget": run(resin.Budget), "wear/light": run(wear.Light),
	"metrology/summary": run(metrology.Summary), "detail/threshold": run(detail.Threshold),
	"evidence/rate": run(evidence.Rate), "evidence/two-rates": run(evidence.TwoRates), "evidence/panel": run(evidence.Panel),
	"evidence/rank": run(evidence.Rank), "evidence/means": run(evidence.Means),
	"evidence/prints": run(evidence.Prints), "evidence/nested": run(evidence.Nested), "evidence/holm": run(evidence.Holm), "evidence/ballots": run(evidence.Ballots),
	"metrology/gauge": run(metrology.Gauge), "mechanics/drop": run(mechanics.Drop), "mechanics/bend": run(mechanics.Bend),
	"photo/scale": run(photo.Scale), "photo/edge": run(photo.Edge),
	"cost/price": run(cost.Price), "cost/piece": run(cost.Piece), "cost/ownership": run(cost.Ownership), "claims/quantity": run(claims.Quantity), "verdict/rank": run(verdict.Rank), "audit/compare": run(audit.Compare),
}

func TestVectors(t *testing.T) {
	files, err := filepath.Glob("testdata/vectors/*.json")
	if err != nil || len(files) != len(calculators) {
		t.Fatalf("%d vector files for %d calculators (%v)", len(files), len(calculators), err)
	}
	for _, name := range files {
		raw, err := os.ReadFile(name)
		if err != nil {
			t.Fatal(err)
		}
		var file vectorFile
		if err := json.Unmarshal(raw, &file); err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		for _, c := range file.Cases {
			t.Run(file.Endpoint+"/"+c.Name, func(t *testing.T) { checkCase(t, file.Endpoint, c) })
		}
	}
}

func checkCase(t *testing.T, endpoint string, c vectorCase) {
	got, err := calculators[endpoint](c.Input)
	var wrong *quantity.FieldError
	if c.ErrorField != "" {
		if !errors.As(err, &wrong) || wrong.Path != c.ErrorField {
			t.Fatalf("error %v, want one of field %s", err, c.ErrorField)
		}
		return
	}
	if err != nil {
		t.Fatal(err)
	}
	raw, err := json.Marshal(got)
	if err != nil {
		t.Fatal(err)
	}
	var out map[string]any
	if err := json.Unmarshal(raw, &out); err != nil {
		t.Fatal(err)
	}
	codes := []string{}
	for _, w := range out["warnings"].([]any) {
		codes = append(codes, w.(map[string]any)["code"].(string))
		if w.(map[string]any)["message"] == "" {
			t.Errorf("warning %v has no message", w)
		}
	}
	delete(out, "warnings")
	slices.Sort(codes)
	want := append([]string{}, c.Warnings...)
	slices.Sort(want)
	if !slices.Equal(codes, want) {
		t.Errorf("warnings %v, want %v", codes, want)
	}
	tolerance := 1e-6
	if endpoint == "detail/threshold" || endpoint == "evidence/rank" || endpoint == "verdict/rank" {
		tolerance = 1e-4
	}
	for _, difference := range compare("", c.Expect, out, tolerance) {
		t.Error(difference)
	}
}

// compare lists where got differs from want; "*" stands for any text.
func compare(path string, want, got any, tolerance float64) []string {
	wrong := []string{fmt.Sprintf("%s: got %v, want %v", path, got, want)}
	switch want := want.(type) {
	case map[string]any:
		object, ok := got.(map[string]any)
		if !ok || len(object) != len(want) {
			return wrong
		}
		var out []string
		for key := range want {
			out = append(out, compare(path+"."+key, want[key], object[key], tolerance)...)
		}
		return out
	case []any:
		list, ok := got.([]any)
		if !ok || len(list) != len(want) {
			return wrong
		}
		var out []string
		for i := range want {
			out = append(out, compare(fmt.Sprintf("%s[%d]", path, i), want[i], list[i], tolerance)...)
		}
		return out
	case float64:
		v, ok := got.(float64)
		if ok && (math.Abs(v-want) <= tolerance*math.Abs(want) || math.Abs(v-want) <= 1e-9) {
			return nil
		}
		return wrong
	case string:
		if text, ok := got.(string); ok && want == "*" && strings.TrimSpace(text) != "" {
			return nil
		}
	}
	if want == got {
		return nil
	}
	return wrong
}
