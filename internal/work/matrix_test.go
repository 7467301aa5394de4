package work_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/experiment"
)

// motions records three lifts by two rests, as often as times say; the last is a hole.
func motions(t *testing.T, times [6]int, underTest ...string) (*desk, experiment.Matrix) {
	t.Helper()
	d := newDesk(t)
	review := d.review(func(r *bench.Review) { r.UnderTest = underTest })
	for i, n := range times {
		settings := d.settings(func(p *bench.Profile) {
			p.Lift = bench.Moves{{MM: 4 + 2*float64(i/2), MMMin: 60}}
			p.WaitLiftS = quantity.Ptr(0.5 + 9.5*float64(i%2))
		})
		for range n {
			d.seen(settings.ID, 4, i%2, 30, 0.2, 30*time.Minute)
		}
	}
	return d, must(d.w.Experiment.Matrix(t.Context(), review.ID))(t)
}

// review saves one of the desk's machine, resin and piece.
func (d *desk) review(change func(*bench.Review)) bench.Review {
	r := bench.Review{Question: "Which motion?", Policy: "same_settings", MachineIDs: bench.IDs{d.machine.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}}
	change(&r)
	return must(d.w.Reviews.SaveReview(d.t.Context(), r))(d.t)
}

func TestAMatrixShowsWhatWasPrintedOfEachCombination(t *testing.T) {
	_, m := motions(t, [6]int{2, 1, 1, 1, 1, 0}, "motion")
	var names []string
	for _, f := range m.Factors {
		names = append(names, f.Name)
	}
	lift, rest := slices.Index(names, "Lift"), slices.Index(names, "Rest after lift")
	if lift < 0 || rest < 0 || len(m.Factors[lift].Levels) != 3 || !slices.Equal(m.Factors[rest].Levels, []string{"0.5 s", "10 s"}) || slices.Contains(names, "Release") {
		t.Fatalf("factors %+v", m.Factors)
	}
	if len(m.Rows) != 5 {
		t.Fatalf("%d rows of 5 combinations", len(m.Rows))
	}
	if first := m.Rows[0].Cells[0]; first.Prints != 2 || first.Specimens != 8 || first.Judged != 8 || first.Failed != 0 || first.Open != 0 {
		t.Errorf("the first combination %+v", first)
	}
	if second := m.Rows[1].Cells[0]; second.Prints != 1 || second.Failed != 1 {
		t.Errorf("the second combination %+v", second)
	}
	if !strings.HasPrefix(m.Tells[0], "These prints tell the effects of lift and rest after lift") {
		t.Errorf("says %q", m.Tells)
	}
	if len(m.Missing) != 1 || !strings.Contains(strings.Join(m.Missing[0], "; "), "8") || !slices.Contains(m.Missing[0], "10 s") {
		t.Errorf("missing %q", m.Missing)
	}
}

func TestAWriteUpSaysWhatWasPutToTheTest(t *testing.T) {
	d, _ := motions(t, [6]int{2, 1, 1, 1, 1, 0}, "motion")
	reviews := must(d.w.Reviews.Reviews(t.Context()))(t)
	text := string(must(d.w.Publish.WriteUp(t.Context(), reviews[0].ID))(t))
	for _, words := range []string{"Under test: motion.", "These prints tell the effects of lift and rest after lift, each by itself.", "Not printed, and with it all of the above could be told: ",
		"### Why their times differ", "within a hundredth.", "should have taken"} {
		if !strings.Contains(text, words) {
			t.Errorf("the write-up does not say %q", words)
		}
	}
}

func TestAMatrixSaysWhatGoesTogether(t *testing.T) {
	// Each lift with one rest of its own: what either does is not to be told.
	_, m := motions(t, [6]int{1, 0, 0, 1, 0, 0}, "motion")
	said := strings.Join(m.Tells, " ")
	if !strings.Contains(said, "go together in these prints: a difference may be either's") || len(m.Missing) == 0 {
		t.Errorf("says %q, missing %q", said, m.Missing)
	}
	_, whole := motions(t, [6]int{1, 1, 1, 1, 1, 1}, "motion")
	if said := strings.Join(whole.Tells, " "); len(whole.Missing) != 0 || !strings.Contains(said, "work on each other can be told") {
		t.Errorf("says %q, missing %q", said, whole.Missing)
	}
}

func TestAMatrixOfOneLevelOrNoneTellsNothing(t *testing.T) {
	_, m := motions(t, [6]int{1, 1, 0, 0, 0, 0}, "layer_um", "room_temp_c")
	if len(m.Tells) != 0 || len(m.Missing) != 0 || len(m.Rows) != 1 || m.Rows[0].Cells[0].Prints != 2 {
		t.Errorf("%+v", m)
	}
	for _, f := range m.Factors {
		if len(f.Levels) > 1 {
			t.Errorf("%s has %q", f.Name, f.Levels)
		}
	}
	d := newDesk(t)
	empty := must(d.w.Experiment.Matrix(t.Context(), d.review(func(r *bench.Review) { r.UnderTest = bench.IDs{"resin"} }).ID))(t)
	if len(empty.Rows) != 0 || len(empty.Pieces) != 1 || len(empty.Factors) != 0 {
		t.Errorf("with no print %+v", empty)
	}
	if _, err := d.w.Experiment.Matrix(t.Context(), "nowhere"); err == nil {
		t.Error("a review that is not on record has a matrix")
	}
}

// Nine levels are more than are told apart: the matrix stands, and says so.
func TestAMatrixOfTooManyLevelsSaysSo(t *testing.T) {
	d := newDesk(t)
	review := d.review(func(r *bench.Review) { r.UnderTest = bench.IDs{"exposure_s"} })
	for i := range 9 {
		settings := d.settings(func(p *bench.Profile) { p.ExposureS = quantity.Ptr(1.6 + 0.2*float64(i)) })
		d.took(settings.ID, 1, 30)
	}
	m := must(d.w.Experiment.Matrix(t.Context(), review.ID))(t)
	if len(m.Rows) != 9 || len(m.Tells) != 1 || !strings.HasPrefix(m.Tells[0], "What these prints can tell apart is not worked out: ") || len(m.Missing) != 0 {
		t.Errorf("%d rows, says %q, missing %q", len(m.Rows), m.Tells, m.Missing)
	}
	// Numbers stand in their order, not in that of their letters.
	d.took(d.settings(func(p *bench.Profile) { p.ExposureS = quantity.Ptr(11.0) }).ID, 1, 30)
	levels := must(d.w.Experiment.Matrix(t.Context(), review.ID))(t).Factors[0].Levels
	if first, last := levels[0], levels[len(levels)-1]; !strings.HasPrefix(first, "1.6") || !strings.HasPrefix(last, "11") {
		t.Errorf("levels %q", levels)
	}
}

// A factor that is not known of a print separates nothing, and is shown as not known.
func TestAMatrixShowsWhatIsNotKnown(t *testing.T) {
	d := newDesk(t)
	review := d.review(func(r *bench.Review) { r.UnderTest = bench.IDs{"orientation"} })
	for _, orientation := range []string{"", "flat", "tilted 30°"} {
		d.runOf(2, func(r *bench.Run) {
			if orientation != "" {
				r.Orientation = &orientation
			}
		})
		d.clock = d.clock.Add(3 * time.Hour)
	}
	m := must(d.w.Experiment.Matrix(t.Context(), review.ID))(t)
	if len(m.Rows) != 3 || !slices.Equal(m.Factors[0].Levels, []string{"flat", "tilted 30°"}) || m.Rows[0].Levels[0] != "" || m.Rows[0].Cells[0].Prints != 1 {
		t.Errorf("%+v", m)
	}
	if len(m.Tells) != 1 || m.Tells[0] != "These prints tell the effect of orientation." {
		t.Errorf("says %q", m.Tells)
	}
}

// A print that has not ended is counted as open, in no other way.
func TestAMatrixCountsOpenPrints(t *testing.T) {
	d := newDesk(t)
	review := d.review(func(r *bench.Review) { r.UnderTest = bench.IDs{"resin"} })
	d.run(nil)
	d.clock = d.clock.Add(time.Hour)
	d.prepared(40)
	m := must(d.w.Experiment.Matrix(t.Context(), review.ID))(t)
	if len(m.Rows) != 1 || m.Rows[0].Cells[0].Prints != 1 || m.Rows[0].Cells[0].Open != 1 || m.Rows[0].Cells[0].Specimens != 3 || m.Rows[0].Cells[0].Judged != 0 {
		t.Errorf("%+v", m.Rows)
	}
}
