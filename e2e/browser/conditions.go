package browser

import (
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/network"
	cdppage "github.com/chromedp/cdproto/page"
	"github.com/chromedp/cdproto/storage"
	"github.com/chromedp/chromedp"
)

// Like sets what the person's system likes: "forced-colors" to "active", and so on.
func (p *Page) Like(feature, value string) {
	_, err := chromedp.Call(p.ctx, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{
		Features: []*emulation.MediaFeature{{Name: feature, Value: value}}})
	p.check(err, "setting %s", feature)
}

// PrintMedia shows the page as it is printed.
func (p *Page) PrintMedia() {
	_, err := chromedp.Call(p.ctx, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{Media: "print"})
	p.check(err, "showing the printed page")
}

// Before runs a script in every page before its own.
func (p *Page) Before(script string) {
	_, err := chromedp.Call(p.ctx, cdppage.AddScriptToEvaluateOnNewDocument,
		cdppage.AddScriptToEvaluateOnNewDocumentParams{Source: script})
	p.check(err, "preparing the page")
}

// conditionsParams are the library's with what browsers before version 150 wanted beside them.
type conditionsParams struct {
	network.EmulateNetworkConditionsByRuleParams
	Offline bool `json:"offline"`
}

var conditions = cdp.Command[conditionsParams, network.EmulateNetworkConditionsByRuleResult]{Method: network.CommandEmulateNetworkConditionsByRule}

// Poor makes it a slow device on a slow network: times slower, bits a second, and the
// time until an answer begins.
func (p *Page) Poor(slower float64, bits int, latency time.Duration) {
	_, err := chromedp.Call(p.ctx, emulation.SetCPUThrottlingRate, emulation.SetCPUThrottlingRateParams{Rate: slower})
	if err == nil {
		_, err = chromedp.Call(p.ctx, network.Enable, network.EnableParams{})
	}
	if err == nil {
		bytes := float64(bits) / 8
		_, err = chromedp.Call(p.ctx, conditions, conditionsParams{EmulateNetworkConditionsByRuleParams: network.EmulateNetworkConditionsByRuleParams{
			MatchedNetworkConditions: []*network.Conditions{{Latency: float64(latency.Milliseconds()), DownloadThroughput: bytes, UploadThroughput: bytes}}}})
	}
	p.check(err, "making the device a poor one")
}

// Forget makes the browser one that has never seen the program, but for the cookie.
func (p *Page) Forget() {
	_, err := chromedp.Call(p.ctx, storage.ClearDataForOrigin, storage.ClearDataForOriginParams{Origin: p.base,
		StorageTypes: "local_storage,indexeddb,service_workers,cache_storage"})
	if err == nil {
		_, err = chromedp.Call(p.ctx, network.ClearBrowserCache, cdp.Empty{})
	}
	p.check(err, "forgetting what is kept")
}

// ForgetCookies ends the session of the browser as it would end by itself: the page hears of it when it asks.
func (p *Page) ForgetCookies() {
	_, err := chromedp.Call(p.ctx, storage.ClearDataForOrigin, storage.ClearDataForOriginParams{Origin: p.base, StorageTypes: "cookies"})
	p.check(err, "forgetting the cookies")
}
