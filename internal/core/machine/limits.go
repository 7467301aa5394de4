package machine

import "ojime/internal/core/quantity"

// Limits from which a part or a bottle is named. They are ours: a warning must come
// while something can still be done, and not at every look.
const (
	SoonShare       = 0.85 // of a life: worn soon
	EmptySoonShare  = 0.15 // of a bottle: empty soon
	OldLevelDays    = 30
	OldBottleDays   = 365
	ExpiresSoonDays = 30
	SettledDays     = 7 // after which a resin in a vat is stirred
	FewSpareML      = 20
	ColdestUsualC   = 20
	WarmestUsualC   = 28
	stateFine       = "fine"
	stateSoon       = "soon"
	stateDue        = "due"
	shareUsedUp     = 1.0
)

// WornState says of a share of a life used whether it is fine, soon over or due.
func WornState(share float64) string {
	switch {
	case share >= shareUsedUp:
		return stateDue
	case share >= SoonShare:
		return stateSoon
	}
	return stateFine
}

// Bottle is how old a bottle of resin is at an instant: whole days since it was
// opened and past its expiry (negative before it; 0 on its last day). nil where the
// day is not on record.
type Bottle struct {
	AgeDays  *float64
	PastDays *float64
}

// BottleAt reckons with calendar days written YYYY-MM-DD.
func BottleAt(openedOn, expiresOn *string, atMS int64) (b Bottle) {
	if opened, known := quantity.Day(openedOn); known {
		b.AgeDays = quantity.Ptr(max(0, quantity.WholeDays(atMS-opened)))
	}
	if expires, known := quantity.Day(expiresOn); known {
		b.PastDays = quantity.Ptr(quantity.WholeDays(atMS - expires))
	}
	return b
}

// Expired reports a bottle past its last day; nil where that is not on record.
func (b Bottle) Expired() *bool {
	if b.PastDays == nil {
		return nil
	}
	return quantity.Ptr(*b.PastDays > 0)
}

// State is due when expired, soon within ExpiresSoonDays or when opened more than
// OldBottleDays ago, else fine; unknown where neither day is on record.
func (b Bottle) State() string {
	switch {
	case b.AgeDays == nil && b.PastDays == nil:
		return "unknown"
	case b.PastDays != nil && *b.PastDays > 0:
		return stateDue
	case b.PastDays != nil && *b.PastDays >= -ExpiresSoonDays, b.AgeDays != nil && *b.AgeDays > OldBottleDays:
		return stateSoon
	}
	return stateFine
}

// VatFill is how many ml a vat is taken to hold at the start of a print: what was
// noted for the print, else for its plate, else its full mark; never more than that.
func VatFill(run, plate *float64, maxML float64) float64 {
	return min(quantity.Or(run, quantity.Or(plate, maxML)), maxML)
}

// StoppedShare is the part of a print, from 0 to 1, that had been printed when it was
// stopped: by the layer it reached, else by its time against the estimate, else all
// of it, so that wear is not said too small.
func StoppedShare(reached *int64, layers int64, ranS float64, estimateS *float64) float64 {
	share := shareUsedUp
	switch {
	case reached != nil && layers > 0:
		share = float64(*reached) / float64(layers)
	case estimateS != nil && *estimateS > 0:
		share = ranS / *estimateS
	}
	return min(shareUsedUp, max(0, share))
}
