package evidence

// FewTrials is below how many trials a rate is not shown without saying so: it means
// next to nothing.
const FewTrials = 3

// Few reports trials of which a rate means next to nothing.
func Few(trials int64) bool { return trials < FewTrials }
