package api

import (
	"context"
	"encoding/json"
	"net/http"
	"reflect"
	"strings"

	"github.com/danielgtaylor/huma/v2"

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

// calcBytes bounds what a calculator reads.
const calcBytes = 8 << 20

// calculators serves every function of the core under its contract name.
func calculators(a huma.API) {
	// A condition is a value or a list of values, which no schema of one type says.
	a.OpenAPI().Components.Schemas.RegisterTypeAlias(reflect.TypeFor[audit.Values](), reflect.TypeFor[any]())
	// A value of an option may be unknown, which is null in its place.
	a.OpenAPI().Components.Schemas.RegisterTypeAlias(reflect.TypeFor[verdict.Values](), reflect.TypeFor[[]any]())
	calc(a, "optics/pitch", optics.Pitch)
	calc(a, "optics/sight", optics.Sight)
	calc(a, "optics/steps", optics.Steps)
	calc(a, "optics/scale", optics.Scale)
	calc(a, "optics/tip", optics.Tip)
	calc(a, "exposure/working-curve", exposure.WorkingCurve)
	calc(a, "exposure/series", exposure.Series)
	calc(a, "exposure/transfer", exposure.Transfer)
	calc(a, "timing/masked", timing.Masked)
	calc(a, "timing/laser", timing.Laser)
	calc(a, "timing/fill", timing.Fill)
	calc(a, "timing/bias", timing.Bias)
	calc(a, "timing/headline", timing.Headline)
	calc(a, "resin/budget", resin.Budget)
	calc(a, "wear/light", wear.Light)
	calc(a, "metrology/summary", metrology.Summary)
	calc(a, "metrology/gauge", metrology.Gauge)
	calc(a, "detail/threshold", detail.Threshold)
	calc(a, "mechanics/drop", mechanics.Drop)
	calc(a, "mechanics/bend", mechanics.Bend)
	calc(a, "photo/scale", photo.Scale)
	calc(a, "photo/edge", photo.Edge)
	calc(a, "evidence/rate", evidence.Rate)
	calc(a, "evidence/two-rates", evidence.TwoRates)
	calc(a, "evidence/panel", evidence.Panel)
	calc(a, "evidence/rank", evidence.Rank)
	calc(a, "evidence/means", evidence.Means)
	calc(a, "evidence/prints", evidence.Prints)
	calc(a, "evidence/nested", evidence.Nested)
	calc(a, "evidence/holm", evidence.Holm)
	calc(a, "evidence/ballots", evidence.Ballots)
	calc(a, "timing/explain", timing.Explain)
	calc(a, "plan/design", plan.Design)
	calc(a, "plan/effects", plan.Effects)
	calc(a, "cost/price", cost.Price)
	calc(a, "cost/piece", cost.Piece)
	calc(a, "cost/ownership", cost.Ownership)
	calc(a, "claims/quantity", claims.Quantity)
	calc(a, "verdict/rank", verdict.Rank)
	calc(a, "audit/compare", audit.Compare)
}

// rawBody leaves decoding to wire, which names what does not fit by its path.
type rawBody struct {
	RawBody []byte
}

func calc[In, Out any](a huma.API, name string, f func(In) (Out, error)) {
	schema := a.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[In](), true, "")
	op := huma.Operation{
		OperationID: "calc-" + strings.ReplaceAll(name, "/", "-"), Method: http.MethodPost, Path: "/api/v1/calc/" + name,
		Summary: "Calculate " + name, Tags: []string{"calc"}, MaxBodyBytes: calcBytes, SkipValidateBody: true,
		RequestBody: &huma.RequestBody{Required: true, Content: map[string]*huma.MediaType{"application/json": {Schema: schema}}},
		Errors:      []int{http.StatusUnprocessableEntity},
	}
	huma.Register(a, op, func(_ context.Context, in *rawBody) (*reply[Out], error) {
		var input In
		if err := wire.Decode(in.RawBody, &input); err != nil {
			return nil, problem(err)
		}
		out, err := f(input)
		if err != nil {
			return nil, problem(err)
		}
		if _, err := json.Marshal(out); err != nil { // a result beyond what a number can hold
			return nil, problem(quantity.Errorf("body", "holds numbers too extreme to compute with; check their units"))
		}
		return &reply[Out]{out}, nil
	})
}
