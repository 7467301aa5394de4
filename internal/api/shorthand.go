package api

import (
	"context"
	"net/http"

	"ojime/internal/work/shorthand"
)

type lineBody struct {
	Text string `json:"text" maxLength:"300"`
}

// shorthand reads what is said in one line, and keeps it once it was shown what that means.
func (s *server) shorthand() {
	ask(s, "/api/v1/line-meanings", "What a line means; nothing is kept", func(ctx context.Context, in *created[lineBody]) (shorthand.Understood, error) {
		return s.work.Shorthand.Understand(ctx, in.Body.Text)
	})
	serve(s, http.MethodPost, "/api/v1/lines", "Keep what a line means", func(ctx context.Context, in *created[shorthand.Saying]) (shorthand.Understood, error) {
		return s.work.Shorthand.Keep(ctx, in.Body)
	})
}
