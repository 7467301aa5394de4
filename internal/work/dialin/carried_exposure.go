package dialin

import (
	"context"
	"fmt"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/exposure"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
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

// Carrying asks for the exposure of settings on another machine, and in another resin where
// one is named. LayerUM, where it is given, is the layer height that is wanted: exposures do
// not carry over to another. Cells, at least 2, are to span the bracket.
type Carrying struct {
	ProfileID string
	MachineID string
	ResinID   string
	LayerUM   *float64
	Cells     int64
}

// CarryExposure carries a profile's exposure to another machine: by the irradiances
// of both where they are on record, else by resins calibrated on both at the
// same layer height; and to another resin by machines on which both resins are calibrated.
// Cells exposures then span the bracket in steps that the machine can dial.
func (w *Tasks) CarryExposure(ctx context.Context, ask Carrying) (out CarriedExposure, err error) {
	if ask.Cells < 2 {
		return out, quantity.Errorf("cells", "is %d; a bracket needs at least 2", ask.Cells)
	}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		from, err := t.Profile(ask.ProfileID)
		if err != nil {
			return err
		}
		switch layer := quantity.Or(ask.LayerUM, from.LayerUM); {
		case from.ExposureS == nil:
			return quantity.Errorf("profile_id", "%s hides its exposure; nothing can be carried over", from.Code)
		case !quantity.Equal(layer, from.LayerUM):
			return quantity.Errorf("layer_um", "is %s µm and %s is for %s µm: an exposure does not carry over to another layer height; choose settings of that height, or begin at the label", say.Figure(layer), from.Code, say.Figure(from.LayerUM))
		}
		source, err := t.Machine(from.MachineID)
		if err != nil {
			return err
		}
		target, err := t.Machine(ask.MachineID)
		if err != nil {
			return err
		}
		profiles, err := t.Profiles()
		if err != nil {
			return err
		}
		out.Transfer, err = exposure.Transfer(exposure.TransferInput{
			ExposureS: *from.ExposureS, FromIrradianceMWCM2: source.IrradianceMWCM2, ToIrradianceMWCM2: target.IrradianceMWCM2,
			Shared: sharedResins(profiles, from, ask.MachineID),
		})
		if err != nil {
			return err
		}
		out.Origin = fmt.Sprintf("borrowed from %s on %s, by %s", from.Code, source.Name, strings.ReplaceAll(out.Transfer.Basis, "_", " "))
		if ask.ResinID != "" && ask.ResinID != from.ResinID {
			if err := out.inAnotherResin(t, profiles, from, ask.ResinID); err != nil {
				return err
			}
		}
		out.FromS, out.StepS = exposure.Bracket(out.Transfer.FromS, out.Transfer.ToS, ask.Cells, target.DialStepS)
		return nil
	})
	return out, err
}

// inAnotherResin carries an exposure on to another resin, which is said.
func (c *CarriedExposure) inAnotherResin(t *store.Tx, profiles []bench.Profile, from bench.Profile, resinID string) error {
	was, err := t.Resin(from.ResinID)
	if err != nil {
		return err
	}
	to, err := t.Resin(resinID)
	if err != nil {
		return err
	}
	both := machinesOfBoth(profiles, from, resinID)
	if len(both) == 0 {
		return quantity.Errorf("resin_id", "is %s and %s is for %s: calibrate both at %s µm on one machine, so that what the one needs tells of the other, or choose settings of %s", to.Name, from.Code, was.Name, say.Figure(from.LayerUM), to.Name)
	}
	c.Transfer, err = exposure.ForAnotherResin(c.Transfer, both)
	c.Origin += fmt.Sprintf(", and from %s to %s by %s that has both", was.Name, to.Name, say.Counted(int64(len(both)), "machine"))
	return err
}

// machinesOfBoth pairs the calibrated exposures of two resins on each machine that has both
// at the layer height of the first.
func machinesOfBoth(profiles []bench.Profile, from bench.Profile, resinID string) []exposure.SharedPair {
	var out []exposure.SharedPair
	of := map[string][2]*float64{}
	var order []string
	for _, p := range profiles {
		if p.Basis != "calibrated" || p.ExposureS == nil || p.LayerUM != from.LayerUM || p.ArchivedMS != nil {
			continue
		}
		pair, known := of[p.MachineID]
		if !known {
			order = append(order, p.MachineID)
		}
		switch p.ResinID {
		case from.ResinID:
			pair[0] = p.ExposureS
		case resinID:
			pair[1] = p.ExposureS
		}
		of[p.MachineID] = pair
	}
	for _, id := range order {
		if pair := of[id]; pair[0] != nil && pair[1] != nil {
			out = append(out, exposure.SharedPair{FromS: *pair[0], ToS: *pair[1]})
		}
	}
	return out
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
