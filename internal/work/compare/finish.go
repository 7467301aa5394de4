package compare

import (
	"ojime/internal/core/audit"
	"ojime/internal/core/evidence"
	"ojime/internal/core/outcome"
)

// finish is the share of copies with a blemish, of any kind and of each that was seen.
// Lost copies have no finish to judge.
func (t *table) finish() error {
	seen := map[string]bool{}
	blemished := make([][][]map[string]bool, len(t.sides)) // by side, print and copy that counts
	for i, s := range t.sides {
		if s.Reference != nil {
			continue
		}
		for _, sheet := range s.Sheets {
			copies := []map[string]bool{}
			for _, p := range sheet.Specimens {
				if !p.Judged() || p.SetAside() {
					continue
				}
				had := map[string]bool{}
				for _, d := range p.Counting() {
					if outcome.Blemish(d.Symptom, d.Origin) {
						had[d.Symptom], seen[d.Symptom] = true, true
					}
				}
				copies = append(copies, had)
			}
			blemished[i] = append(blemished[i], copies)
		}
	}
	count := func(has func(map[string]bool) bool) [][][]evidence.PrintCount {
		return t.strata(func(of, print int) []evidence.PrintCount {
			var c evidence.PrintCount
			for _, had := range blemished[of][print] {
				c.Judged++
				if has(had) {
					c.Failed++
				}
			}
			if c.Judged == 0 {
				return nil
			}
			return []evidence.PrintCount{c}
		})
	}
	if err := t.rates("blemished", "With a blemish of finish", audit.Finish, count(func(had map[string]bool) bool { return len(had) > 0 })); err != nil {
		return err
	}
	kinds := 0
	for _, symptom := range outcome.Blemishes {
		if seen[symptom] {
			kinds++
		}
	}
	if kinds < 2 {
		return nil // one kind alone is what stands above
	}
	for _, symptom := range outcome.Blemishes {
		if !seen[symptom] {
			continue
		}
		if err := t.rates("blemished "+symptom, "With "+symptom, audit.Finish, count(func(had map[string]bool) bool { return had[symptom] })); err != nil {
			return err
		}
	}
	return nil
}
