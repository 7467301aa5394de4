package work_test

import (
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/compare"
)

// Settings of every basis can be compared: what was adjusted or come to by long use is
// told from what was calibrated, and refused nowhere.
func TestSettingsOfEveryBasisCompare(t *testing.T) {
	d := newDesk(t)
	first := d.run(nil).Run
	for _, basis := range []string{"own", "adjusted", "borrowed", "sealed"} {
		p := d.profile
		p.ID, p.Code, p.Version, p.Basis, p.Name, p.ParentID = "", "", 0, basis, basis+" one", &d.profile.ID
		if basis == "sealed" {
			p = bench.Profile{MachineID: d.machine.ID, ResinID: d.resin.ID, LayerUM: 50, Basis: "sealed", SealedName: "Fine", Antialiasing: "none"}
		}
		p = must(d.w.Kit.AddProfile(t.Context(), p))(t)
		other := d.run(func(r *bench.Run) { r.ProfileID, r.SoftwareEstimateS = p.ID, quantity.Ptr(1800.0) }).Run
		c, err := d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: [][]string{{first.ID}, {other.ID}}, Question: "dimension"})
		if err != nil {
			t.Errorf("basis %s: %v", basis, err)
			continue
		}
		found := false
		for _, r := range c.Audits[0].Result.Rows {
			found = found || r.Factor == "exposure_basis" && r.State == "differs"
		}
		if !found {
			t.Errorf("basis %s: the audit does not say that it differs from %s", basis, d.profile.Basis)
		}
	}
}
