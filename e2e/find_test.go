package e2e

import "testing"

// One key finds anything that one may see, by its first letters, and Enter goes there.
func TestTheFinder(t *testing.T) {
	t.Parallel()
	s := serve(t)
	p := page(t, s, 1280, 800)
	p.SignIn("Dr Ondine Farrow")
	p.Until(`document.querySelector("[data-test=course]") !== null`)
	p.Keys("/")
	p.Until(`document.activeElement?.getAttribute("role") === "combobox"`)
	p.Keys("buffer")
	p.Until(`document.querySelector("[data-test=hits] li")?.innerText.includes("Strength of the buffer dosing solution")`)
	accessible(t, p, "the finder")
	p.Keys("\r")
	p.Until(`location.pathname.endsWith("/practicals/buffer-dosing/plan") && document.querySelector(".stations") !== null`)

	q := page(t, s, 390, 844)
	q.SignIn("Mira Quillon")
	tap(q, "[data-test=find]")
	q.Until(`document.activeElement?.getAttribute("role") === "combobox"`)
	q.Keys("teodor")
	q.See("Nothing begins so.")
	accessible(t, q, "nothing found")
	q.Keys("\b\b\b\b\b\bphenolphthalein")
	q.Until(`document.querySelector("[data-test=hits] li")?.innerText.includes("phenolphthalein")`)
	q.Keys("\r")
	q.Until(`location.pathname === "/catalogue" && document.querySelector("#wanted")?.value.includes("phenolphthalein")`)
}
