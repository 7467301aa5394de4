package evidence

// FewTrials is below how many trials a rate is not shown without saying so: it means
// next to nothing.
const FewTrials = 3
