package experiment

import (
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/reviews"
	"ojime/internal/work/side"
)

// Claim is what a maker claims of a machine or of an upgrade, and what became of it. Verdict
// is empty where nothing was measured.
type Claim struct {
	Machine   string `json:"machine"`
	MachineID string `json:"machine_id"`
	Claimed   string `json:"claimed"`
	Says      string `json:"says"`
	Verdict   string `json:"claim_verdict" enum:",met,not_met,cannot_tell"`
	// EventID is the knot of an upgrade that is claimed, empty for the machine itself.
	EventID string `json:"event_id"`
}

// ClaimsOf holds the speeds that are claimed of a review's machines against its prints, and
// the times that are claimed of their upgrades against the prints before and after.
func ClaimsOf(t *store.Tx, reader *printing.Reader, review bench.Review, setups []reviews.SetUp) ([]Claim, error) {
	out := []Claim{}
	for _, id := range review.MachineIDs {
		m, err := t.Machine(id)
		if err != nil {
			return nil, err
		}
		if m.ClaimedMMH != nil {
			claim, err := speedClaim(reader, m, setups)
			if err != nil {
				return nil, err
			}
			out = append(out, claim)
		}
		events, err := t.EventsOfMachine(id)
		if err != nil {
			return nil, err
		}
		for _, e := range events {
			if e.ClaimedTimePct == nil || e.RetiredMS != nil {
				continue
			}
			claim, err := upgradeClaim(t, m, e)
			if err != nil {
				return nil, err
			}
			out = append(out, claim)
		}
	}
	return out, nil
}

// notTested stands where nothing was measured of a claim.
const notTested = "not tested"

func speedClaim(reader *printing.Reader, m bench.Machine, setups []reviews.SetUp) (Claim, error) {
	out := Claim{Machine: m.Name, MachineID: m.ID, Claimed: say.Figure(*m.ClaimedMMH) + " mm/h", Says: notTested}
	var ids []string
	known := map[string]bool{}
	for _, s := range setups {
		for _, id := range s.RunIDs {
			if s.MachineID == m.ID && !known[id] {
				known[id], ids = true, append(ids, id)
			}
		}
	}
	if len(ids) == 0 {
		return out, nil
	}
	sheets, err := reader.Sheets(ids...)
	if err != nil {
		return out, err
	}
	if rose := side.RoseOf(m, sheets); rose != nil {
		out.Says, out.Verdict = rose.Says, rose.Verdict
	}
	return out, nil
}

func upgradeClaim(t *store.Tx, m bench.Machine, e bench.MachineEvent) (Claim, error) {
	out := Claim{Machine: m.Name, MachineID: m.ID, Claimed: fmt.Sprintf("%s %% of the time before, by %s of %s", say.Figure(*e.ClaimedTimePct), e.Words(), say.Day(e.AtMS)), Says: notTested, EventID: e.ID}
	pairs, err := beforeAfter(t, e)
	if err != nil {
		return out, err
	}
	effect, reason, err := effectOf(t, e, pairs)
	switch {
	case err != nil:
		return out, err
	case effect == nil:
		out.Says = notTested + ": " + reason
	default:
		out.Says, out.Verdict = effect.Measured, effect.Verdict
	}
	return out, nil
}
