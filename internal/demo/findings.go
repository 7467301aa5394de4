package demo

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/work/findings"
)

// publishes picks what a review publishes as found: the strongest rows, one in the reviewer's words, one that cannot be
// told, and a word of the reviewer's own.
func (d *scene) publishes(reviewID string) error {
	sheet, err := d.work.Findings.Sheet(d.ctx, reviewID)
	if err != nil {
		return err
	}
	for _, says := range []string{"crisper bars", "Time of a plate of", "failures, all"} {
		at := slices.IndexFunc(sheet.Offered, func(r findings.FoundRow) bool { return strings.Contains(r.Sentence, says) })
		if at < 0 {
			return fmt.Errorf("the review offers no finding on %q", says)
		}
		if sheet, err = d.work.Findings.Pick(d.ctx, reviewID, sheet.Offered[at].Key, ""); err != nil {
			return err
		}
	}
	first := sheet.Picked[0].Finding
	if _, err := d.work.Findings.Reword(d.ctx, first.ID, first.Version, "In the hand, and primed, judges who did not know which was which preferred the bars of the masked panel."); err != nil {
		return err
	}
	_, err = d.work.Findings.Pick(d.ctx, reviewID, "", "The projector's vat pours out at one corner only, and drips on the way.")
	return err
}
