package work_test

import (
	"errors"
	"math"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/printing"
	"ojime/internal/work/readers"
)

// twoPriced are the two settings on two pieces of twoPieces, on a machine with a price.
func twoPriced(t *testing.T) (*desk, bench.Review) {
	t.Helper()
	d, review := twoPieces(t)
	m := d.machine
	m.PriceList = quantity.Ptr(400.0)
	d.machine = must(d.w.Kit.SaveMachine(t.Context(), m))(t).Machine
	return d, review
}

func readersOf(t *testing.T, d *desk, review string) readers.ReadersSheet {
	t.Helper()
	return must(d.w.Readers.Sheet(t.Context(), review))(t)
}

// A reader begins from an example, with the measures that the review has; what it has not is left out and said.
func TestAReaderBeginsFromAnExample(t *testing.T) {
	d, review := twoPriced(t)
	sheet := readersOf(t, d, review.ID)
	if len(sheet.Readers) != 0 || len(sheet.Examples) != 5 || len(sheet.Pieces) != 2 || len(sheet.Says) != 0 {
		t.Fatalf("%+v", sheet)
	}
	for _, m := range sheet.Measures {
		if m.Key == "failures" && (m.Unit != "%" || len(m.Pieces) != 2) || m.Key == "price" && m.Unit != "€" {
			t.Errorf("%+v", m)
		}
	}
	must(d.w.Readers.Begin(t.Context(), review.ID, "army"))(t)
	sheet = readersOf(t, d, review.ID)
	army := sheet.Readers[0]
	if army.Reader.Code != "Z1" || len(army.Options) != 2 || len(army.Rows) != 6 || len(army.Reader.Limits) != 1 {
		t.Fatalf("%+v", army)
	}
	var left []string
	sum := 0.0
	for _, r := range army.Rows {
		if sum += r.Share; r.LeftOut != "" {
			left = append(left, r.Name+": "+r.LeftOut)
		}
	}
	if strings.Join(left, "; ") != "Crispness of edges: this review measured nothing of the kind" || math.Abs(sum-1) > 1e-9 {
		t.Errorf("%v, %v", left, sum)
	}
	// Failures over both pieces, each alike: 0 and 12 of 16 on one side, 0 and 6 of 8 on the other.
	if got := army.Rows[0].Values; !strings.HasPrefix(got[0], "37.5 %") || !strings.HasPrefix(got[1], "37.5 %") {
		t.Errorf("%v", got)
	}
	if held := army.Options[0].Limits[0]; held.State != "not_shown" || !strings.HasPrefix(held.Says, "at most 25 %: 37.5 %") {
		t.Errorf("%+v", held)
	}
	if army.Whole == nil || army.Quality == nil || len(army.Lines) != len(army.Whole.Flips) || !strings.Contains(army.Says[1], "Money apart: ") {
		t.Errorf("%+v", army)
	}
	if said := strings.Join(sheet.Says, "\n"); !strings.Contains(said, "“Failures” weighs much for An army by the dozen, and nothing is published about it.") {
		t.Error(said)
	}
	_, err := d.w.Readers.Begin(t.Context(), review.ID, "nobody")
	wantField(t, err, "example")
}

// Weights, anchors and must-haves are the reviewer's; what they turn is told.
func TestWhatAReaderWeighsDecides(t *testing.T) {
	d, review := twoPriced(t)
	ctx := t.Context()
	r := must(d.w.Readers.Begin(ctx, review.ID, "parts"))(t)
	r.Name, r.Limits = "Who waits", bench.ReaderLimits{}
	r.Criteria = bench.ReaderCriteria{{Measure: "per_piece", Name: "Time a piece", Weight: 3, Worst: 60, Best: 0}, {Measure: "failures", PieceID: review.PieceIDs[0], Name: "Failures", Weight: 1, Worst: 50, Best: 0}, {Measure: "price", Name: "Price", Weight: 0, Worst: 1000, Best: 0}}
	r = must(d.w.Readers.Keep(ctx, r))(t)
	sheet := readersOf(t, d, review.ID).Readers[0]
	if sheet.Whole == nil || sheet.Whole.Leader == nil || !strings.HasPrefix(*sheet.Whole.Leader, "U-01") || sheet.Rows[2].LeftOut != "it weighs nothing" {
		t.Fatalf("%+v", sheet)
	}
	if said := strings.Join(sheet.Says, "\n"); !strings.Contains(said, "Counted as exact, since there is no interval: Time a piece.") {
		t.Error(said)
	}
	// A claim that nobody could tell, were it true: then the other would lead.
	must(d.w.Ledger.Keep(ctx, bench.LedgerClaim{MachineID: &d.machine.ID, Words: "None fails", Kind: bench.ClaimMeasure, Value: quantity.Ptr(40.0), Bound: "at_least", Of: "failures", Source: "x", Interest: "none"}))(t)
	if turns := strings.Join(readersOf(t, d, review.ID).Readers[0].Turns, "\n"); !strings.Contains(turns, "the second would be level") {
		t.Error(turns)
	}
	r.Limits = bench.ReaderLimits{{Measure: "per_piece", Name: "Time a piece", Bound: "at_most", Value: 12}}
	r = must(d.w.Readers.Keep(ctx, r))(t)
	sheet = readersOf(t, d, review.ID).Readers[0]
	if sheet.Options[0].Out != "" || !strings.Contains(sheet.Options[1].Out, "Time a piece, at most 12 min: ") || sheet.Whole != nil || !strings.Contains(sheet.Says[0], "Fewer than two") {
		t.Errorf("%+v", sheet)
	}
	text := string(must(d.w.Publish.WriteUp(ctx, review.ID))(t))
	if !strings.Contains(text, "## For whom") || !strings.Contains(text, "### Who waits") || !strings.Contains(text, "| Time a piece | ") {
		t.Error(text[:2500])
	}
	must(d.w.Readers.TakeBack(ctx, r.ID, "nobody waits"))(t)
	if len(readersOf(t, d, review.ID).Readers) != 0 {
		t.Error("a reader who was taken back is weighed for")
	}
	if _, err := d.w.Readers.Keep(ctx, r); !errors.Is(err, bench.ErrStale) && !errors.Is(err, bench.ErrConflict) {
		t.Error(err)
	}
	must(d.w.History.Restore(ctx, "reader", r.ID, ""))(t)
	if len(readersOf(t, d, review.ID).Readers) != 1 {
		t.Error("a reader cannot be put back")
	}
}

func TestReadersThatMakeNoSense(t *testing.T) {
	d, review := twoPriced(t)
	r := must(d.w.Readers.Begin(t.Context(), review.ID, "first"))(t)
	one := bench.ReaderCriterion{Measure: "failures", Name: "Failures", Weight: 1, Worst: 50}
	for field, change := range map[string]func(*bench.Reader){
		"name":                func(r *bench.Reader) { r.Name = " " },
		"criteria":            func(r *bench.Reader) { r.Criteria = bench.ReaderCriteria{} },
		"criteria[0].weight":  func(r *bench.Reader) { r.Criteria = bench.ReaderCriteria{one}; r.Criteria[0].Weight = -1 },
		"criteria[0].best":    func(r *bench.Reader) { r.Criteria = bench.ReaderCriteria{one}; r.Criteria[0].Best = 50 },
		"criteria[1].measure": func(r *bench.Reader) { r.Criteria = bench.ReaderCriteria{one, one}; r.Criteria[1].Name = "x" },
		"criteria[1].name":    func(r *bench.Reader) { r.Criteria = bench.ReaderCriteria{one, one}; r.Criteria[1].Measure = "cost" },
		"limits[0].bound":     func(r *bench.Reader) { r.Limits = bench.ReaderLimits{{Measure: "cost", Name: "x", Bound: "near"}} },
	} {
		changed := r
		change(&changed)
		_, err := d.w.Readers.Keep(t.Context(), changed)
		wantField(t, err, field)
	}
}

// Were a claim true that nobody could tell, another would lead: that is said.
func TestAClaimThatWouldTurnTheVerdict(t *testing.T) {
	d, review := twoPriced(t)
	ctx := t.Context()
	blue := d.resin
	blue.ID, blue.Code, blue.Version, blue.Name = "", "", 0, "Plain Blue"
	blue = must(d.w.Kit.SaveResin(ctx, blue))(t).Resin
	other := d.settings(func(p *bench.Profile) { p.ResinID = blue.ID })
	d.mixed([]printing.Portion{{PieceID: review.PieceIDs[0], Copies: 4}}, map[string]int{review.PieceIDs[0]: 1}, func(r *bench.Run) {
		r.ResinID, r.ProfileID, r.BottleID, r.EndedMS = blue.ID, other.ID, nil, quantity.Ptr(r.StartedMS+3*3_600_000)
	})
	review.ResinIDs = append(review.ResinIDs, blue.ID)
	review = must(d.w.Reviews.SaveReview(ctx, review))(t)
	r := must(d.w.Readers.Begin(ctx, review.ID, "parts"))(t)
	r.Criteria, r.Limits = bench.ReaderCriteria{{Measure: "per_piece", PieceID: review.PieceIDs[0], Name: "Time a piece", Weight: 1, Worst: 60, Best: 0}}, bench.ReaderLimits{}
	must(d.w.Readers.Keep(ctx, r))(t)
	before := readersOf(t, d, review.ID).Readers[0]
	must(d.w.Ledger.Keep(ctx, bench.LedgerClaim{ResinID: &blue.ID, Words: "A minute a piece", Kind: bench.ClaimMeasure, Value: quantity.Ptr(1.0), Bound: "at_most", Of: "per_piece", Source: "x", Interest: "maker"}))(t)
	after := readersOf(t, d, review.ID).Readers[0]
	if before.Whole == nil || before.Whole.Leader == nil || strings.HasPrefix(*before.Whole.Leader, "U-03") {
		t.Fatalf("%+v", before)
	}
	if said := strings.Join(after.Turns, "\n"); len(after.Turns) != len(before.Turns)+1 || !strings.Contains(said, "If claim Y-01 were true (“A minute a piece”), U-03") {
		t.Error(said)
	}
}
