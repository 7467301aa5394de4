package work_test

import (
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
)

// What the reviewer usually does is typed once: a first print on a machine begins with it, and the
// next ones with what the last had.
func TestAFirstPrintBeginsWithWhatIsUsual(t *testing.T) {
	d := newDesk(t)
	s := must(d.w.Kit.Settings(t.Context()))(t)
	s.UsualSoftware, s.UsualSupports, s.UsualWashS = "Carver 1.4", "light, tip 0.3 mm", quantity.Ptr(240.0)
	must(d.w.Kit.SaveSettings(t.Context(), s))(t)
	first := must(d.w.Printing.DraftRun(t.Context(), d.machine.ID))(t).Run
	if first.Software == nil || *first.Software != "Carver 1.4" || *first.Supports != "light, tip 0.3 mm" || *first.WashS != 240 || first.CureS != nil || first.Orientation != nil {
		t.Errorf("%+v", first)
	}
	d.run(func(r *bench.Run) { r.Software, r.WashS = quantity.Ptr("Carver 1.5"), nil })
	next := must(d.w.Printing.DraftRun(t.Context(), d.machine.ID))(t).Run
	if *next.Software != "Carver 1.5" || next.WashS != nil {
		t.Errorf("the next print does not begin with what the last had: %+v", next)
	}
	s = must(d.w.Kit.Settings(t.Context()))(t)
	s.UsualCureS = quantity.Ptr(-1.0)
	_, err := d.w.Kit.SaveSettings(t.Context(), s)
	wantField(t, err, "usual_cure_s")
}
