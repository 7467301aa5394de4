package ledger

import (
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/claims"
	"ojime/internal/work/experiment"
	"ojime/internal/work/kit"
)

// inKit are the claims that stand with machines, their units, resins and upgrades, without those that were taken into the
// ledger: of the same thing in the same words.
func (b book) inKit(taken []bench.LedgerClaim) (out []LedgerRow, err error) {
	known := func(r LedgerRow) bool {
		return slices.ContainsFunc(taken, func(c bench.LedgerClaim) bool {
			return (c.MachineID != nil && *c.MachineID == r.MachineID || c.ResinID != nil && *c.ResinID == r.ResinID) && strings.EqualFold(strings.TrimSpace(c.Words), strings.TrimSpace(r.Words))
		})
	}
	add := func(r LedgerRow) {
		if !known(r) {
			out = append(out, r)
		}
	}
	computed, err := experiment.ClaimsOf(b.t, b.reader, b.review, b.setups)
	if err != nil {
		return nil, err
	}
	for _, c := range computed {
		row := LedgerRow{Key: c.MachineID + c.EventID + c.Claimed, Subject: c.Machine, MachineID: c.MachineID, EventID: c.EventID, Words: c.Claimed, Source: "with the machine", Interest: "maker", Test: claims.Tests[bench.ClaimSpeed], State: c.Verdict, Says: c.Says}
		if row.State == "" {
			row.State = claims.Untested
		}
		add(row)
	}
	for _, id := range b.review.MachineIDs {
		m, err := b.lookup.Machine(id)
		if err != nil {
			return nil, err
		}
		unit, err := kit.UnitOf(b.t, id)
		if err != nil {
			return nil, err
		}
		if unit == nil {
			continue
		}
		for _, c := range unit.Claimed {
			add(LedgerRow{Key: id + c.Says, Subject: m.Name, MachineID: id, Words: c.Says, Source: c.Source, Interest: "maker", Test: claims.Tests[bench.ClaimWords], State: claims.Untested, Says: "nobody has said what was found"})
		}
	}
	for _, id := range b.review.ResinIDs {
		r, err := b.lookup.Resin(id)
		if err != nil {
			return nil, err
		}
		for _, text := range r.Claims {
			add(LedgerRow{Key: id + text, Subject: r.Name, ResinID: id, Words: text, Source: "what its maker says", Interest: "maker", Test: claims.Tests[bench.ClaimWords], State: claims.Untested, Says: "nobody has said what was found"})
		}
	}
	return out, nil
}
