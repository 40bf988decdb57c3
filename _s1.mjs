import {start,open} from './_shot.mjs'
const {browser,page}=await start(); await open(page,'Tool library kiosk'); await page.waitForSelector('[data-test=power-flow]'); await page.click('[data-node="panel.usb"]'); await page.waitForTimeout(500); await page.screenshot({path:'/tmp/p1.png'})
await open(page,'Hive on the south slope'); await page.click('[data-test=power-scenario]'); await page.waitForTimeout(1500); await page.screenshot({path:'/tmp/p2.png'})
await page.click('[data-test=power-battery]'); await page.waitForTimeout(1000); await page.screenshot({path:'/tmp/p3.png'})
await page.click('[data-test=power-heat]'); await page.waitForTimeout(1000); await page.screenshot({path:'/tmp/p4.png'})
await page.click('[data-test=power-compare]'); await page.waitForTimeout(700); await page.screenshot({path:'/tmp/p5.png'})
await browser.close()
