package benchview

import (
	"fmt"

	"ojime/internal/store"
)

// panelSteps names the blind panels that wait: for their codes, for votes, or to be closed.
func (b *Bench) panelSteps(t *store.Tx) error {
	panels, err := t.Panels()
	if err != nil {
		return err
	}
	for _, p := range panels {
		if p.Closed() || p.TakenBackMS != nil {
			continue
		}
		link := "/verdict/panels/" + p.ID
		if p.SealedMS == nil {
			b.step("Seal blind panel "+p.Code, fmt.Sprintf("“%s” takes no votes before its copies are coded and it is sealed.", p.Question), link)
			continue
		}
		ballots, err := t.BallotsOfPanel(p.ID)
		if err != nil {
			return err
		}
		cast := int64(0)
		for _, v := range ballots {
			if v.ReplacedMS == nil && v.CastMS != nil {
				cast++
			}
		}
		if cast == p.Judges {
			b.step("Close blind panel "+p.Code, fmt.Sprintf("All %d judges have voted on “%s”; its key is sealed still.", cast, p.Question), link)
		} else {
			b.step("Ask the judges of blind panel "+p.Code, fmt.Sprintf("%d of %d have voted on “%s”.", cast, p.Judges, p.Question), link)
		}
	}
	return nil
}
