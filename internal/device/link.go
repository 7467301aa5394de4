package device

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"

	"ojime/internal/bench"
	"ojime/internal/work"
	"ojime/internal/work/feed"
)

// Web is the way over HTTP, as any device outside the program takes it.
type Web struct {
	URL    string // of the program, such as http://127.0.0.1:8420
	Token  string
	Client *http.Client
}

// problemText is as much of an answer as is worth showing.
const problemText = 2000

func (l Web) do(ctx context.Context, method, path string, body []byte, out any) error {
	req, err := http.NewRequestWithContext(ctx, method, l.URL+path, bytes.NewReader(body))
	if err != nil {
		return err
	}
	req.Header.Set("Authorization", "Bearer "+l.Token)
	req.Header.Set("Content-Type", "application/x-ndjson")
	res, err := l.Client.Do(req)
	if err != nil {
		return err
	}
	defer func() { _ = res.Body.Close() }() // it was read
	text, err := io.ReadAll(res.Body)
	if err != nil {
		return err
	}
	switch res.StatusCode {
	case http.StatusOK:
		return json.Unmarshal(text, out)
	case http.StatusNotFound:
		return fmt.Errorf("%s: %w", path, bench.ErrNotFound)
	}
	return fmt.Errorf("%s answered %d: %.*s", path, res.StatusCode, problemText, text)
}

// Job asks for what is to be printed.
func (l Web) Job(ctx context.Context) (out feed.Job, err error) {
	return out, l.do(ctx, http.MethodGet, "/api/v1/feed/job", nil, &out)
}

// Send sends messages.
func (l Web) Send(ctx context.Context, messages []bench.DeviceMessage) (out feed.Received, err error) {
	body, err := WriteJSON(messages)
	if err != nil {
		return out, err
	}
	return out, l.do(ctx, http.MethodPost, "/api/v1/feed", body, &out)
}

// Inside is the way within the program.
type Inside struct {
	Work  *work.Work
	Token string
	// Take receives messages as if they had come over HTTP.
	Take func(ctx context.Context, token string, messages []bench.DeviceMessage) (feed.Received, error)
}

// Job asks for what is to be printed.
func (l Inside) Job(ctx context.Context) (feed.Job, error) { return l.Work.Feed.Job(ctx, l.Token) }

// Send hands messages over.
func (l Inside) Send(ctx context.Context, messages []bench.DeviceMessage) (feed.Received, error) {
	return l.Take(ctx, l.Token, messages)
}
