import { filledForm, passwordForm } from '@pragmatica/core';
import { expect } from 'chai';

const URL_OF_PAGE = 'https://trial.example/welcome?next=%2Ffares';
const sent = (html: string, name = 'editor', value = 'lee & shore'): string | undefined => {
  const form = passwordForm(html, URL_OF_PAGE);
  return form && `${form.method} ${form.action} ${filledForm(form, name, value)}`;
};

describe('a form that asks for a password', () => {
  it('is sent as a browser sends it: what is hidden, chosen and pressed goes along', () => {
    expect(
      sent(
        `<form action="/search"><input name="q"></form>
         <form method="POST" action="enter?step=1"><input type="hidden" name="token" value="t7">
           <input type="email" name="login"><input type="password" name="secret">
           <input type="checkbox" name="stay" checked><input type="checkbox" name="news" value="yes">
           <select name="lang"><option value="en">English<option value="ga" selected>Gaeilge</select>
           <textarea name="note">hi</textarea><input name="off" disabled value="x">
           <button name="go" value="in">Enter</button><button name="other" value="2">No</button></form>`,
      ),
    ).to.equal(
      'post https://trial.example/enter?step=1 token=t7&login=editor&secret=lee+%26+shore&stay=on&lang=ga&note=hi&go=in',
    );
  });

  it('may ask for the password only, and be sent to its own page', () => {
    expect(sent('<form><input type=password name=p></form>')).to.equal(`get ${URL_OF_PAGE} p=lee+%26+shore`);
    expect(
      sent('<base href="/deep/"><form method=post action=in><input type=password name=p></form>'),
    ).to.equal('post https://trial.example/deep/in p=lee+%26+shore');
  });

  it('is none where nothing can be sent', () => {
    for (const html of [
      '',
      '<input type=password name=p>',
      '<form><input type=password></form>',
      '<form><input name=q></form>',
    ])
      expect(passwordForm(html, URL_OF_PAGE), html).to.equal(undefined);
    const deep = '<div>'.repeat(100_000);
    expect(() => passwordForm(deep, URL_OF_PAGE)).to.throw();
  });
});
