package dialin

import (
	"context"
	"fmt"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/exposure"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
)

// CarriedExposure is an exposure carried over from another machine, with the series
// that would test its bracket on this one.
type CarriedExposure struct {
	Transfer exposure.TransferResult `json:"transfer"`
	FromS    float64                 `json:"from_s"`
	StepS    float64                 `json:"step_s"`
	Origin   string                  `json:"origin"`
}

// CarryExposure carries a profile's exposure to another machine: by the irradiances
// of both where they are on record, else by resins calibrated on both at the
// same layer height. Cells exposures then span the bracket in steps that the
// machine can dial.
func (w *Tasks) CarryExposure(ctx context.Context, profileID, machineID string, cells int64) (out CarriedExposure, err error) {
	if cells < 2 {
		return out, quantity.Errorf("cells", "is %d; a bracket needs at least 2", cells)
	}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		from, err := t.Profile(profileID)
		if err != nil {
			return err
		}
		if from.ExposureS == nil {
			return quantity.Errorf("profile_id", "%s hides its exposure; nothing can be carried over", from.Code)
		}
		source, err := t.Machine(from.MachineID)
		if err != nil {
			return err
		}
		target, err := t.Machine(machineID)
		if err != nil {
			return err
		}
		profiles, err := t.Profiles()
		if err != nil {
			return err
		}
		out.Transfer, err = exposure.Transfer(exposure.TransferInput{
			ExposureS: *from.ExposureS, FromIrradianceMWCM2: source.IrradianceMWCM2, ToIrradianceMWCM2: target.IrradianceMWCM2,
			Shared: sharedResins(profiles, from, machineID),
		})
		if err != nil {
			return err
		}
		out.FromS, out.StepS = exposure.Bracket(out.Transfer.FromS, out.Transfer.ToS, cells, target.DialStepS)
		out.Origin = fmt.Sprintf("borrowed from %s on %s, by %s", from.Code, source.Name, strings.ReplaceAll(out.Transfer.Basis, "_", " "))
		return nil
	})
	return out, err
}

// sharedResins pairs the calibrated exposures of one resin on both machines.
func sharedResins(profiles []bench.Profile, from bench.Profile, machineID string) []exposure.SharedPair {
	var out []exposure.SharedPair
	calibrated := func(p bench.Profile, machine string) bool {
		return p.MachineID == machine && p.Basis == "calibrated" && p.LayerUM == from.LayerUM && p.ExposureS != nil
	}
	for _, a := range profiles {
		for _, b := range profiles {
			if calibrated(a, from.MachineID) && calibrated(b, machineID) && a.ResinID == b.ResinID {
				out = append(out, exposure.SharedPair{FromS: *a.ExposureS, ToS: *b.ExposureS})
			}
		}
	}
	return out
}
