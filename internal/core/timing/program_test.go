package timing

import (
	"math"
	"reflect"
	"testing"

	"ojime/internal/core/quantity"
)

func TestProgramsAreToldByTheirVersions(t *testing.T) {
	s := func(version, stage string, took float64, ended string) ProgramStep {
		out := ProgramStep{Program: "Carver", Version: version, Piece: "p", Stage: stage, Ended: ended}
		if took > 0 {
			out.TookS = quantity.Ptr(took)
		}
		return out
	}
	steps := []ProgramStep{s("2", "slice", 40, "done"), s("2", "slice", 60, "done"), s("2", "slice", 500, "crash"), s("2", "import", 5, "done"), s("3", "slice", 20, "done"), s("2", "support", 0, "done"), s("2", "slice", 90, "done")}
	got := ByProgram(steps)
	if len(got) != 2 || got[0].Steps != 6 || got[0].Failed != 1 || got[0].Crashed != 1 || got[1].Failed != 0 {
		t.Fatalf("%+v", got)
	}
	// Wilson of 1 in 6: 3.0 % to 56.4 %.
	if ci := *got[0].CI; math.Abs(ci[0]-0.0301) > 5e-4 || math.Abs(ci[1]-0.5635) > 5e-4 {
		t.Errorf("interval %v", ci)
	}
	// What crashed has no time; what was not timed has none either; the order is that of the work.
	want := []StageTime{{"import", 1, 5, 5, 5}, {"slice", 3, 60, 40, 90}}
	if !reflect.DeepEqual(got[0].Stages, want) {
		t.Errorf("%+v, want %+v", got[0].Stages, want)
	}
	if again, ok := TriedAgain(steps, 2); !ok || again.Version != "3" || again.Failed() {
		t.Errorf("the crash was tried again: %+v, %v", again, ok)
	}
	if _, ok := TriedAgain(steps, 6); ok {
		t.Error("nothing came after the last step")
	}
	for done, want := range map[string]string{"": "import", "import": "orient", "export": "transfer", "transfer": "import"} {
		if got := NextStage(done); got != want {
			t.Errorf("after %q comes %q, want %q", done, got, want)
		}
	}
	if got := ByProgram(nil); len(got) != 0 {
		t.Errorf("of nothing: %+v", got)
	}
}
