"""A log of real input on a page: what somebody's hands did, counted as a user would count it."""

from __future__ import annotations

from playwright.sync_api import Page

_LOG = """() => {
    if (window.actionLog) return;
    const log = window.actionLog = [];
    let down = null;
    let field = null;
    const named = (target) => (target.getAttribute?.('aria-label') || target.textContent || target.tagName).trim().slice(0, 40);
    const listen = (type, act) => window.addEventListener(type, (event) => event.isTrusted && act(event), true);
    listen('pointerdown', (event) => { down = event; field = null; });
    listen('pointerup', (event) => {
        if (!down) return;
        const far = Math.hypot(event.clientX - down.clientX, event.clientY - down.clientY) > 4;
        log.push(`${far ? 'drag' : 'click'} ${named(down.target)}`);
        down = null;
    });
    // What is dragged by the browser itself ends with a drop and not with a pointer that is let go.
    listen('drop', () => { log.push('drag and drop'); down = null; });
    // The second click of a double click belongs to the first.
    listen('dblclick', () => { log.splice(-2, 2, `double ${log.at(-1)}`); });
    listen('keydown', (event) => {
        if (['Shift', 'Control', 'Alt', 'Meta'].includes(event.key) || event.repeat) return;
        const types = event.target.matches('input:not([type=checkbox]), textarea') && event.key.length === 1 && !event.ctrlKey;
        if (types && field === event.target) return;
        field = types ? event.target : null;
        log.push(types ? `type into ${named(event.target)}` : `key ${event.key}`);
    });
}"""
"""Clicks, double clicks, drags, keys, and fields typed into, each counted once."""


def watch(page: Page) -> None:
    """Begin to count on a page; it must not be loaded anew."""
    page.evaluate(_LOG)


def counted(page: Page) -> list[str]:
    """What was done since, in order."""
    log: list[str] = page.evaluate("() => window.actionLog")
    return log
