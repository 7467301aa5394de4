package work_test

import (
	"bytes"
	"errors"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/work/compare"
)

// lives rates a machine.
func (d *desk) lives(machineID, scale string, score int64, rater string) string {
	d.t.Helper()
	got := must(d.w.FirstDays.RateMachine(d.t.Context(), machineID, bench.MachineRating{Scale: scale, Score: score, Rater: rater, Conditions: "at 1 m"}))(d.t)
	return got.Ratings[0].ID
}

func TestLivingWithMachinesStandsBesideTheFigures(t *testing.T) {
	d := newDesk(t)
	first := d.run(nil)
	mine := d.machine.ID
	other := d.strange()
	second := d.run(func(r *bench.Run) {
		r.MachineID, r.ProfileID = other.machine.ID, other.profile.ID
		r.StartedMS -= int64(5 * time.Hour / time.Millisecond)
		*r.EndedMS -= int64(5 * time.Hour / time.Millisecond)
	})
	compared := func() []compare.Lived {
		return must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: [][]string{{first.Run.ID}, {second.Run.ID}}, Question: "time"}))(t).Lived
	}
	if got := compared(); got == nil || len(got) != 0 {
		t.Errorf("nobody rated anything: %+v", got)
	}
	d.lives(mine, "lid", 3, "Ida")
	slip := d.lives(mine, "lid", 0, "Bo")
	d.lives(other.machine.ID, "noise", 2, "Ida")
	rows := compared()
	if len(rows) != 2 || rows[0].Scale != "noise" || rows[0].Sides[0] != nil || !strings.HasSuffix(rows[0].Sides[1].Says, "n = 1 by 1 person") {
		t.Fatalf("%+v", rows)
	}
	if says := rows[1].Sides[0].Says; says != "0 of 4: two hands and a free table (0 to 3), n = 2 by 2 people" || rows[1].Sides[1] != nil {
		t.Errorf("%q", says)
	}

	// What is remarked stands beside each other by what it is about.
	must(d.w.FirstDays.Remark(t.Context(), mine, bench.Remark{Kind: "annoyance", About: "Lid", What: "it slams", Often: "every_print", Weight: 3}))(t)
	must(d.w.FirstDays.Remark(t.Context(), other.machine.ID, bench.Remark{Kind: "pleasure", About: "spout", What: "no drop", Often: "often", Weight: 2}))(t)
	remarked := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: [][]string{{first.Run.ID}, {second.Run.ID}}, Question: "time"}))(t).Remarked
	if len(remarked) != 2 || remarked[0].About != "lid" || !strings.HasPrefix(remarked[0].Sides[0], "annoys, every print, weight 3 of 5 (it slams") || remarked[0].Sides[1] != "" || remarked[1].Sides[0] != "" || !strings.Contains(remarked[1].Sides[1], "no drop") {
		t.Errorf("%+v", remarked)
	}
	if alone := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: [][]string{{first.Run.ID}, {first.Run.ID}}, Question: "time"}))(t); len(alone.Remarked) != 0 {
		t.Error("one machine is set against itself")
	}

	// A slip is taken back once, with its reason, and stays to be seen.
	_, err := d.w.FirstDays.TakeMachineRatingBack(t.Context(), mine, slip, " ")
	wantField(t, err, "why")
	after := must(d.w.FirstDays.TakeMachineRatingBack(t.Context(), mine, slip, "the other lid"))(t)
	if len(after.Ratings) != 2 || after.Ratings[0].TakenBackWhy != "the other lid" {
		t.Errorf("%+v", after.Ratings)
	}
	if _, err := d.w.FirstDays.TakeMachineRatingBack(t.Context(), mine, slip, "again"); !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("taken back twice: %v", err)
	}
	if got := compared()[1].Sides[0]; got.N != 1 || got.Score != 3 {
		t.Errorf("%+v", got)
	}

	review := must(d.w.Reviews.SaveReview(t.Context(), bench.Review{Question: "Which?", Policy: "maker_default", MachineIDs: bench.IDs{mine}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}}))(t)
	table := d.table(review.ID, "machine-ratings")
	if len(table) != 2 || table[0]["anchor"] != "one hand" || table[0]["counts"] != "yes" || table[1]["counts"] != "taken back: the other lid" {
		t.Errorf("%+v", table)
	}
	text := string(must(d.w.Publish.WriteUp(t.Context(), review.ID))(t))
	for _, want := range []string{"## Living with the machines", "| Lid or cover | 3 of 4: one hand, n = 1 by 1 person |"} {
		if !strings.Contains(text, want) {
			t.Errorf("the write-up lacks %q", want)
		}
	}
	if strings.Contains(text, "Noise while printing") {
		t.Error("the write-up tells of a scale on which no machine of the review was rated")
	}
}

func TestRatingsOfMachinesThatMeanNothingAreRefused(t *testing.T) {
	d := newDesk(t)
	for field, r := range map[string]bench.MachineRating{
		"scale":      {Scale: "edges", Score: 2, Rater: "Ida"},
		"score":      {Scale: "lid", Score: 5, Rater: "Ida"},
		"rater":      {Scale: "lid", Score: 2, Rater: " "},
		"conditions": {Scale: "noise", Score: 2, Rater: "Ida"},
	} {
		_, err := d.w.FirstDays.RateMachine(t.Context(), d.machine.ID, r)
		wantField(t, err, field)
	}
	if _, err := d.w.FirstDays.RateMachine(t.Context(), "nobody", bench.MachineRating{Scale: "lid", Rater: "Ida"}); !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("a machine that is none: %v", err)
	}
	if got := must(d.w.FirstDays.LivingWith(t.Context(), d.machine.ID))(t); len(got.Ratings) != 0 || got.Ratings == nil {
		t.Errorf("%+v", got.Ratings)
	}
}

// A scale of machines of one's own is asked for, compared, published and carried on like those
// of the program, and stands on no sitting.
func TestAScaleOfMachinesOfOnesOwn(t *testing.T) {
	d := newDesk(t)
	steps := bench.Notes{"burns", "hot", "warm", "tepid", "cool"}
	own := must(d.w.FirstDays.DefineMachineScale(t.Context(), bench.OwnScale{Name: " Heat of the lid ", Anchors: steps, Conditions: "after how long"}))(t)
	if own.Name != "Heat of the lid" || !own.Own || own.Under != "after how long" {
		t.Errorf("%+v", own)
	}
	for field, s := range map[string]bench.OwnScale{
		"name":    {Name: "heat of the LID", Anchors: steps},
		"anchors": {Name: "Wobble", Anchors: bench.Notes{"a", "b", "c", "d", " "}},
	} {
		_, err := d.w.FirstDays.DefineMachineScale(t.Context(), s)
		wantField(t, err, field)
	}
	for _, s := range must(d.w.Inspect.Scales(t.Context()))(t) {
		if s.Key == own.Key {
			t.Error("a copy would be rated on a scale of machines")
		}
	}
	_, err := d.w.FirstDays.RateMachine(t.Context(), d.machine.ID, bench.MachineRating{Scale: own.Key, Score: 1, Rater: "Ida"})
	wantField(t, err, "conditions")
	d.lives(d.machine.ID, own.Key, 1, "Ida")

	first := d.run(nil)
	other := d.strange()
	second := d.run(func(r *bench.Run) {
		r.MachineID, r.ProfileID = other.machine.ID, other.profile.ID
		r.StartedMS -= int64(5 * time.Hour / time.Millisecond)
		*r.EndedMS -= int64(5 * time.Hour / time.Millisecond)
	})
	rows := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: [][]string{{second.Run.ID}, {first.Run.ID}}, Question: "time"}))(t).Lived
	if len(rows) != 1 || rows[0].Name != "Heat of the lid" || rows[0].Sides[0] != nil || rows[0].Sides[1].Says != "1 of 4: hot, n = 1 by 1 person" {
		t.Errorf("%+v", rows)
	}
	review := must(d.w.Reviews.SaveReview(t.Context(), bench.Review{Question: "Which?", Policy: "maker_default", MachineIDs: bench.IDs{d.machine.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}}))(t)
	if table := d.table(review.ID, "machine-ratings"); len(table) != 1 || table[0]["scale"] != "Heat of the lid" || table[0]["anchor"] != "hot" {
		t.Errorf("%+v", table)
	}
	if text := string(must(d.w.Publish.WriteUp(t.Context(), review.ID))(t)); !strings.Contains(text, "| Heat of the lid | 1 of 4: hot, n = 1 by 1 person |") {
		t.Error("the write-up lacks the scale")
	}

	text := exported(t, d.w)
	elsewhere := newEmpty(t, d)
	if _, err := elsewhere.Record.Import(t.Context(), bytes.NewReader(text)); err != nil {
		t.Fatal(err)
	}
	if !bytes.Equal(exported(t, elsewhere), text) {
		t.Error("it is not the same when it comes back")
	}
	// A file from before machines had such scales says of none what it is of.
	before := bytes.Replace(text, []byte(`"about":"machines","conditions":"after how long"`), []byte(`"about":"","conditions":""`), 1)
	if _, err := newEmpty(t, d).Record.Import(t.Context(), bytes.NewReader(before)); err == nil || !strings.Contains(err.Error(), "machine_ratings[0].scale") {
		t.Errorf("a machine rated on a scale of specimens: %v", err)
	}
}
